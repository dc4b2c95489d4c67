import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import writeExcelFile from 'write-excel-file/node'
import { makePdf, PDF_FONT } from './pdf'

/** The inspection and test plan as a document: each procedure's steps, and who comes to look. */
export interface PlanPaper {
  project: string
  /** where and when it counts, in words */
  scope: string
  parties: string[]
  /** what the letters mean */
  legend: [letter: string, word: string][]
  procedures: { title: string; revision: string; rows: { stage: string; step: string; cells: string[] }[] }[]
}

const PALE = '#5A6168'

/** As a document to be signed: a page begins with each procedure, the legend stands on the first. */
export async function planHere({
  project,
  scope,
  parties,
  legend,
  procedures,
}: PlanPaper): Promise<Uint8Array> {
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [38, 36, 38, 40],
    defaultStyle: { font: PDF_FONT, fontSize: 9, color: '#161A1D' },
    info: { title: `Inspection and test plan ${project}` },
    footer: (n, of) => ({
      ...{ margin: [38, 6, 38, 0], fontSize: 7, color: PALE },
      columns: [`Vet Line · ${project} · ${scope}`, { text: `${n} / ${of}`, alignment: 'right' }],
    }),
    content: [
      { text: 'Inspection and test plan', fontSize: 17, bold: true },
      { text: `${project} · ${scope}`, color: PALE, margin: [0, 0, 0, 6] },
      { text: legend.map(([letter, word]) => `${letter}  ${word}`).join('     '), margin: [0, 0, 0, 4] },
      ...procedures.map(({ title, revision, rows }): Content => ({
        margin: [0, 12, 0, 0],
        stack: [
          { text: `${title}, revision ${revision}`, bold: true, fontSize: 11, margin: [0, 0, 0, 4] },
          {
            layout: 'lightHorizontalLines',
            table: {
              ...{ headerRows: 1, dontBreakRows: true, widths: [90, '*', ...parties.map(() => 66)] },
              body: [
                ['Stage', 'Step', ...parties].map((text) => ({ text, color: PALE })),
                ...rows.map((r, i) => [
                  // A stage is named once, where it begins.
                  i > 0 && rows[i - 1]!.stage === r.stage ? '' : r.stage,
                  r.step,
                  ...r.cells.map((text) => ({ text, bold: text !== '' })),
                ]),
              ],
            },
          },
        ],
      })),
    ],
  }
  return makePdf(definition)
}

/** As a spreadsheet: one sheet, a row a step, as the CSV has it. */
export async function planSheetHere({ parties, procedures }: PlanPaper): Promise<Uint8Array> {
  const head = ['Procedure', 'Revision', 'Stage', 'Step', ...parties].map((value) => ({
    ...{ value, type: String, fontWeight: 'bold' as const },
  }))
  const rows = procedures.flatMap((p) =>
    p.rows.map((r) =>
      [p.title, p.revision, r.stage, r.step, ...r.cells].map((value) => ({ value, type: String })),
    ),
  )
  const columns = [34, 10, 24, 34, ...parties.map(() => 16)].map((width) => ({ width }))
  const buffer = await writeExcelFile([head, ...rows], { columns, sheet: 'Plan' }).toBuffer()
  return new Uint8Array(buffer)
}
