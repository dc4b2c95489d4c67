import { DateTime } from 'luxon'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { ShiftPage } from '#core/crew/shift-signing'
import { standingWords, type StandingCause } from '#core/crew/standing-time'
import { showDuration } from '#core/quantity/show'
import { pngOf, printable } from '../pictures'
import { makePdf, PDF_FONT } from './pdf'

export interface ShiftInput {
  page: ShiftPage
  project: { name: string; zone: string }
}

const PALE = '#5A6168'
const right = (good: boolean | null) => (good === null ? 'in work' : good ? 'yes' : 'no')
const head = (text: string): Content => ({ text, bold: true, margin: [0, 10, 0, 2] })
const table = (widths: (number | string)[], titles: string[], body: string[][]): Content => ({
  layout: 'lightHorizontalLines',
  table: {
    ...{ headerRows: 1, widths: widths as never },
    body: [titles.map((t) => ({ text: t, color: PALE })), ...body],
  },
})

/** The shift report of a crew and a day on one page. Times in the project's zone. */
export async function shiftHere({ page, project }: ShiftInput): Promise<Uint8Array> {
  const { report, signed } = page
  const at = (ms: number) => DateTime.fromMillis(ms, { zone: project.zone }).toFormat('HH:mm')
  const day = DateTime.fromISO(report.day, { zone: 'utc' }).toFormat('cccc d LLLL yyyy')
  const joints = report.work.filter((w) => w.of === 'joint')
  const reaches = report.work.filter((w) => w.of === 'reach')
  const stood = Object.entries(report.standing).filter(([, ms]) => ms >= 60_000)
  const drawn = await Promise.all(
    [signed.lead, signed.inspector].map((s) => (s ? printable(pngOf(s.image), 'image/png') : null)),
  )
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [38, 36, 38, 40],
    defaultStyle: { font: PDF_FONT, fontSize: 9, color: '#161A1D' },
    info: { title: `Shift report ${report.crew.name} ${report.day}` },
    footer: (n, of) => ({
      ...{ margin: [38, 6, 38, 0], fontSize: 7, color: PALE },
      columns: [
        `Vet Line · ${project.name} · ${report.crew.name}`,
        { text: `${n} / ${of}`, alignment: 'right' },
      ],
    }),
    content: [
      { text: `Shift report: ${report.crew.name}`, fontSize: 17, bold: true },
      {
        text: `${day}${at(page.until) === '00:00' ? '' : `, up to ${at(page.until)}`} · ${project.name}`,
        color: PALE,
      },
      ...(signed.lead?.weather
        ? [{ text: `Weather: ${signed.lead.weather}`, margin: [0, 4, 0, 0] as never }]
        : []),
      head(`Joints (${joints.length})`),
      table(
        [70, '*', 70, 60, 150],
        ['Joint', 'Procedure', 'State', 'At first try', 'Refused or reported'],
        joints.map((w) => [w.name, w.procedure, w.state, right(w.right), w.faults.join(', ')]),
      ),
      ...(reaches.length > 0
        ? [
            head(`Embedment (${reaches.length})`),
            table(
              ['*', 60, 60],
              ['Reach', 'Lifts', 'Answers'],
              reaches.map((w) => [w.name, `${w.lifts}`, `${w.answers}`]),
            ),
          ]
        : []),
      head('Stood still'),
      {
        text:
          stood
            .map(
              ([cause, ms]) =>
                `${standingWords[cause as StandingCause]} ${showDuration(Math.round(ms / 60_000) * 60)}`,
            )
            .join(', ') || 'The crew waited for nobody.',
      },
      ...(report.stands.length > 0
        ? [
            table(
              [70, '*', 110, 90],
              ['Where', 'Step', 'Why', 'From, to'],
              report.stands.map((s) => [
                s.at,
                s.step ?? '',
                standingWords[s.cause],
                `${at(s.from)}, ${s.to === null ? 'still' : at(s.to)}`,
              ]),
            ),
          ]
        : []),
      head('Also'),
      {
        ul: [
          `Lots used: ${report.lots.join(', ') || 'none named'}`,
          `Nonconformances raised: ${report.ncrs.join(', ') || 'none'}`,
          `Photos taken: ${report.photos}`,
          ...(report.late > 0 ? [`Entries that came late and prove no time: ${report.late}`] : []),
        ],
      },
      ...(report.left && report.left.length > 0
        ? [head('Left open'), { ul: report.left.map((l) => `${l.name}: ${l.says}`) }]
        : []),
      ...(signed.lead && signed.lead.rain !== null
        ? [{ text: signed.lead.rain ? 'Rain was expected for the night.' : 'No rain was expected.' }]
        : []),
      ...(signed.lead?.words ? [head('Words of the crew'), { text: signed.lead.words }] : []),
      head('Signed'),
      ...[signed.lead, signed.inspector].map((s, i): Content =>
        s
          ? {
              unbreakable: true,
              margin: [0, 0, 0, 6],
              columns: [
                drawn[i]
                  ? { width: 150, image: drawn[i], fit: [140, 44] }
                  : { width: 150, text: 'The drawn signature cannot be printed.', italics: true },
                {
                  stack: [
                    { text: s.name, bold: true },
                    `${s.role === 'crew-lead' ? 'for the crew' : 'for the inspection'}, ` +
                      DateTime.fromMillis(s.at, { zone: project.zone }).toFormat('d LLL yyyy HH:mm'),
                    { text: `bound to ${s.report}`, fontSize: 7, color: PALE },
                  ],
                },
              ],
            }
          : { text: i === 0 ? 'Not signed by the crew.' : 'Not signed by the inspection.', color: PALE },
      ),
      ...(page.moved
        ? [
            {
              text: 'The crew has worked on since it signed: this page shows the day as it is now.',
              color: '#A8201A',
            },
          ]
        : []),
    ],
  }
  return makePdf(definition)
}
