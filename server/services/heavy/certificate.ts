import { DateTime } from 'luxon'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import { markWords, type Mark } from '#core/pressure/marks'
import { findTestMethod } from '#core/pressure/methods/registry'
import { sayParameters } from '#core/pressure/parameters'
import type { TestEvaluation } from '#core/pressure/report'
import { showMetres, showQuantity, showStretch } from '#core/quantity/show'
import type { packSheet } from '../pack-view'
import { makePdf, PDF_FONT as FONT } from './pdf'
import { pngOf, printable } from '../pictures'
import { plugsSvg, profileSvg, traceSvg, type DrawnTrace } from './certificate-drawings'

type Sheet = Awaited<ReturnType<typeof packSheet>>

const PALE = '#5A6168'
const verdicts: Record<string, string> = {
  accept: 'ACCEPTED',
  reject: 'NOT ACCEPTED',
  'too-close': 'TOO CLOSE TO CALL',
  incomplete: 'INCOMPLETE',
}
const mark = (verdict: string | null) =>
  verdict === null ? '' : ({ accept: 'met', reject: 'not met', 'too-close': 'too close' }[verdict] ?? verdict)

const rows = (list: readonly (readonly [string, string])[]): Content => ({
  layout: 'lightHorizontalLines',
  table: { widths: [150, '*'], body: list.map(([a, b]) => [{ text: a, color: PALE }, b]) },
})
const head = (text: string, top = 12): Content => ({ text, bold: true, margin: [0, top, 0, 2] })
const table = (widths: (number | string)[], titles: readonly string[], body: string[][]): Content => ({
  layout: 'lightHorizontalLines',
  table: {
    ...{ headerRows: 1, widths: widths as never },
    body: [titles.map((t) => ({ text: t, color: PALE })), ...body],
  },
})

function numbersOf(evaluation: TestEvaluation | null): Content[] {
  const notes = evaluation?.notes ?? []
  return [
    table(
      [150, 110, '*', 50],
      ['What', 'Found', 'Criterion or formula', 'Verdict'],
      (evaluation?.numbers ?? []).map((n) => [n.title, n.text, n.formula, mark(n.verdict)]),
    ),
    ...(notes.length
      ? [
          {
            text: `Log: ${notes.map((n) => `${n.sentence} (${n.count})`).join(' ')}`,
            margin: [0, 6, 0, 0] as [number, number, number, number],
          },
        ]
      : []),
  ]
}

/** A run before the last, on a page of its own: both are kept, and why it was run again. */
function earlierPage(
  run: Sheet['earlier'][number],
  n: number,
  next: string | null,
  time: (ms: number) => string,
  names: Record<string, string>,
): Content[] {
  return [
    {
      text: `Run ${n}, ${time(run.startedAt)}: ${verdicts[run.evaluation?.verdict ?? 'incomplete']!.toLowerCase()}`,
      ...{ fontSize: 13, bold: true, pageBreak: 'before', margin: [0, 0, 0, 4] },
    },
    { text: run.evaluation?.sentence ?? 'This run ended without an evaluation.' },
    rows([
      ['Started by', names[run.startedBy] ?? ''],
      ...(run.reason ? [['Started with open rows', run.reason] as const] : []),
      ...(next ? [['Before the next run', next] as const] : []),
    ]),
    ...(run.trace ? [{ svg: traceSvg(run.trace as DrawnTrace, run.evaluation, run.marks) }] : []),
    ...numbersOf(run.evaluation),
  ]
}

const marksRows = (marks: readonly Mark[], time: (ms: number) => string, names: Record<string, string>) =>
  marks.map((m) => [time(m.at), markWords[m.kind], names[m.by] ?? ''])

/** One certificate a pack, from its sheet. Times in the project's zone. */
export function certificateDefinition(
  sheet: Sheet,
  project: { name: string; zone: string },
  drawn: readonly (string | null)[],
): TDocumentDefinitions {
  const { pack, plan, evaluation, run, earlier, people } = sheet
  const method = findTestMethod(pack.method)
  const time = (ms: number) =>
    DateTime.fromMillis(ms, { zone: project.zone }).toFormat('d LLL yyyy HH:mm:ss ZZZZ')
  const sections: Content[] = [
    {
      columns: [
        {
          stack: [
            { text: 'Pressure test certificate', fontSize: 18, bold: true },
            {
              text: `${pack.number} · ${sheet.line.name}, ${showStretch(pack.from, pack.to, 1)}`,
              margin: [0, 2, 0, 0],
            },
            { text: project.name, color: PALE },
          ],
        },
        {
          width: 'auto',
          stack: [
            {
              text: verdicts[evaluation?.verdict ?? 'incomplete']!,
              ...{ bold: true, fontSize: 13, alignment: 'right' },
              color: evaluation?.verdict === 'accept' ? '#1B6B45' : '#A8201A',
            },
          ],
        },
      ],
    },
    {
      canvas: [{ type: 'line', x1: 0, y1: 6, x2: 519, y2: 6, lineWidth: 1, lineColor: '#0A5A63' }],
      margin: [0, 0, 0, 8],
    },
    { text: evaluation?.sentence ?? 'Not evaluated.', fontSize: 11, margin: [0, 0, 0, 8] },
    rows([
      ['Method', `${method.title} (${method.key}). ${method.why}`],
      [
        'Test pressure at the gauge',
        `${showQuantity(pack.design.testPressure, 'pressure', 'kPa')} at ${showMetres(pack.design.gaugeElevation, 2)}`,
      ],
      [
        'Gauge',
        sheet.gauge
          ? `${sheet.gauge.name}, ± ${showQuantity(sheet.gauge.uncertainty, 'pressure', 'kPa')}, ` +
            `calibrated until ${sheet.gauge.calibratedUntil.slice(0, 10)}`
          : 'none named',
      ],
      [
        'Weakest component',
        `${pack.design.weakest}, class ${showQuantity(pack.design.rating, 'pressure', 'bar')}`,
      ],
      ...(method.air
        ? []
        : [
            [
              'Pressure along the section',
              `${showQuantity(plan.highest.pressure, 'pressure', 'kPa')} at the highest point, ` +
                `${showQuantity(plan.lowest.pressure, 'pressure', 'kPa')} at the lowest`,
            ] as const,
          ]),
      ['Thrust on each closure', showQuantity(plan.endThrust, 'force', 'kN', 3)],
      ['Log', sheet.log ? `${sheet.log.count} readings from ${time(sheet.log.startedAt)}` : 'none'],
      [
        'Deviations',
        [
          run?.reason && `Started with open rows (${run.open.join(', ')}): ${run.reason}`,
          run?.log?.reason && `The log is of another time: ${run.log.reason}`,
          run?.since && `Run ${earlier.length + 1}; before it: ${run.since}`,
        ]
          .filter(Boolean)
          .join(' ') || 'none',
      ],
    ]),
    head(method.air ? 'The line between its plugs' : 'Profile and pressure'),
    {
      svg: method.air
        ? plugsSvg(pack.from, pack.to, plan.endThrust, pack.design.section.insideDiameter)
        : profileSvg(plan),
    },
    head('Trace', 8),
    { svg: traceSvg(sheet.log, evaluation, run?.marks ?? []) },
    { ...(head('Numbers', 0) as object), pageBreak: 'before' } as Content,
    ...numbersOf(evaluation),
    head('Judged by'),
    table(
      [150, 110, '*'],
      ['Parameter', 'Value', 'Why'],
      sayParameters(method, pack.design.parameters).map((p) => [
        p.title,
        p.byDefault ? `${p.text} (default)` : p.text,
        p.why,
      ]),
    ),
    ...(run?.marks.length
      ? [
          head('Marked on the trace'),
          table([150, 150, '*'], ['When', 'What', 'By'], marksRows(run.marks, time, people)),
        ]
      : []),
    ...(run?.present.length
      ? [
          head('Present'),
          rows(run.present.map((p) => [people[p.person] ?? '', `since ${time(p.at)}`] as const)),
        ]
      : []),
    head('Ready list'),
    table(
      [180, 50, '*'],
      ['Row', 'State', 'Evidence'],
      sheet.ready.map((r) => [r.title, r.state, r.sentence]),
    ),
    ...(sheet.after.length
      ? [
          head('After the test'),
          table(
            [220, 100, '*'],
            ['What', 'Said', 'By'],
            sheet.after.map((a) => [
              a.title,
              a.answers.find((x) => x.key === a.answer)?.title ?? 'open',
              a.by && a.at ? `${people[a.by] ?? ''}, ${time(a.at)}` : '',
            ]),
          ),
        ]
      : []),
    head('Signatures'),
    ...(sheet.signatures.length === 0
      ? [{ text: 'Not signed.' }]
      : sheet.signatures.map((s, i): Content => ({
          unbreakable: true,
          margin: [0, 0, 0, 6],
          columns: [
            drawn[i]
              ? { width: 150, image: drawn[i], fit: [140, 48] }
              : { width: 150, text: 'The drawn signature cannot be printed.', italics: true },
            {
              stack: [
                { text: s.name, bold: true },
                `${s.role}, ${time(s.at)}`,
                { text: `bound to ${s.digest}`, fontSize: 7, color: PALE },
              ],
            },
          ],
        }))),
    {
      unbreakable: true,
      margin: [0, 12, 0, 0],
      columns: [
        { width: 78, qr: `vet-line:${pack.number}:${sheet.digest ?? ''}`, fit: 72 },
        {
          stack: [
            { text: 'Digest of the record of this pack', color: PALE },
            { text: sheet.digest ?? '', fontSize: 8 },
            {
              text:
                'The log lies beside this certificate as CSV, the record as JSON: ' +
                './vet-line digest RECORD LOG checks both against this digest. ' +
                'Local rules and the engineer’s approved plan govern.',
              margin: [0, 6, 0, 0],
            },
          ],
        },
      ],
    },
    ...earlier.flatMap((r, i) =>
      earlierPage(r, i + 1, earlier[i + 1]?.since ?? run?.since ?? null, time, people),
    ),
  ]
  return {
    pageSize: 'A4',
    pageMargins: [38, 40, 38, 44],
    defaultStyle: { font: FONT, fontSize: 9, color: '#161A1D' },
    info: { title: `Pressure test certificate ${pack.number}` },
    footer: (page, pages) => ({
      ...{ margin: [38, 8, 38, 0], fontSize: 7, color: PALE },
      columns: [
        `Vet Line · ${project.name} · ${pack.number}`,
        { text: `${page} / ${pages}`, alignment: 'right' },
      ],
    }),
    content: sections,
  }
}

export interface CertificateInput {
  sheet: Sheet
  project: { name: string; zone: string }
}

/** The certificate as PDF bytes. A signature that cannot be shown never ends the document. */
export async function certificateHere({ sheet, project }: CertificateInput): Promise<Uint8Array> {
  const drawn = await Promise.all(sheet.signatures.map((s) => printable(pngOf(s.image), 'image/png')))
  return makePdf(certificateDefinition(sheet, project, drawn))
}
