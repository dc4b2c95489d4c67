import { showMetres, showSteps, showQuantity } from '#core/quantity/show'
import { DateTime } from 'luxon'
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { Damage, DamageVerdict } from '#core/delivery/damage'
import type { ItemVerdict } from '#core/delivery/inspection'
import type { ReconciledLine } from '#core/delivery/reconcile'
import { printable } from '../pictures'
import { makePdf, PDF_FONT } from './pdf'
import { escaped, svg, tag } from './svg'

/** What was found on one item of a delivery. */
export interface Found {
  serial: string
  lot: string
  title: string
  state: string
  remark: string
  length: number
  wall: number
  damage: Damage | null
  verdict: { damage: DamageVerdict | null; measured: ItemVerdict | null } | null
  photos: string[]
}

/** All that a notice tells, gathered before it is drawn. */
export interface NoticeInput {
  delivery: { number: string; supplier: string; orderNumber: string; receivedAt: string; state: string }
  project: { name: string; zone: string }
  author: string
  deviations: ReconciledLine[]
  found: Found[]
  photos: { serial: string; mime: string; sha256: string; bytes: Uint8Array }[]
}

const words: Record<ReconciledLine['result'], string> = {
  right: 'right',
  short: 'short',
  over: 'over',
  'wrong-class': 'wrong class',
  'wrong-lot': 'wrong lot',
  'not-ordered': 'not ordered',
}

/** A pipe with its damage, from the side and from its end, in ink on paper. */
function damageSvg({ damage, length, wall }: Found & { damage: Damage }): string {
  const [w, h] = [420, 74]
  const x = 6 + (damage.fromEnd / length) * (w - 12)
  const angle = ((damage.clock % 12) / 12) * 2 * Math.PI
  const [cx, cy, r] = [w + 42, 36, 26]
  const words = (at: { x: number; y: number }, text: string, more: Record<string, string> = {}) =>
    tag('text', { ...at, 'font-size': 9, 'font-family': PDF_FONT, ...more }, escaped(text))
  const where = `${showMetres(damage.fromEnd, 2)} from the end, ${showSteps(damage.length, 'mm')} long`
  const ofWall = wall > 0 ? ` of ${showQuantity(wall, 'length', 'mm', 3)} wall` : ''
  const long = Math.max(4, (damage.length / length) * (w - 12))
  const left = Math.min(w - 120, x)
  return svg(
    500,
    h,
    tag('rect', { x: 6, y: 20, width: w - 12, height: 30, fill: '#F1ECDF', stroke: '#161A1D' }),
    tag('rect', { x, y: 31, width: long, height: 8, fill: '#A8201A' }),
    words({ x: left, y: 14 }, where),
    words({ x: left, y: 64 }, `${showQuantity(damage.depth, 'length', 'mm', 3)} deep${ofWall}`),
    tag('circle', { cx, cy, r, fill: 'none', stroke: '#161A1D', 'stroke-width': 5 }),
    tag('circle', { cx: cx + Math.sin(angle) * r, cy: cy - Math.cos(angle) * r, r: 4.5, fill: '#A8201A' }),
    words({ x: cx, y: cy + 3 }, `${damage.clock} h`, { 'text-anchor': 'middle' }),
  )
}

/** The notice as PDF bytes. A photo that cannot be shown never ends the document. */
export async function noticeHere({
  delivery,
  project,
  author,
  deviations,
  found,
  photos: sent,
}: NoticeInput): Promise<Uint8Array> {
  const received = DateTime.fromISO(delivery.receivedAt, { zone: project.zone }).toFormat(
    'd LLLL yyyy, HH:mm',
  )
  const signed =
    delivery.state === 'signed'
      ? 'The note was signed with what follows.'
      : 'DRAFT: the note is not signed yet.'
  const photos: { serial: string; sha256: string; image: string | null }[] = []
  for (const p of sent)
    photos.push({ serial: p.serial, sha256: p.sha256, image: await printable(Buffer.from(p.bytes), p.mime) })
  const heading = (text: string): Content => ({ text, bold: true, fontSize: 11, margin: [0, 14, 0, 4] })
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [38, 40, 38, 44],
    defaultStyle: { font: PDF_FONT, fontSize: 9.5, color: '#161A1D' },
    info: { title: `Notice on delivery ${delivery.number}` },
    footer: (page, pages) => ({
      margin: [38, 8, 38, 0],
      fontSize: 7,
      color: '#5A6168',
      columns: [
        `Vet Line · ${project.name} · ${delivery.number}`,
        { text: `${page} / ${pages}`, alignment: 'right' },
      ],
    }),
    content: [
      { text: `Notice on delivery ${delivery.number}`, fontSize: 18, bold: true },
      {
        text: `To ${delivery.supplier} · order ${delivery.orderNumber} · ${project.name}`,
        color: '#5A6168',
        margin: [0, 2, 0, 0],
      },
      {
        canvas: [{ type: 'line', x1: 0, y1: 6, x2: 519, y2: 6, lineWidth: 1, lineColor: '#0A5A63' }],
        margin: [0, 0, 0, 10],
      },
      {
        text: [
          `Received on ${received}.`,
          signed,
          'Please say within the time of the contract what you propose.',
        ].join(' '),
      },
      heading('Against the order'),
      deviations.length === 0
        ? { text: 'Everything is as ordered.' }
        : {
            layout: 'lightHorizontalLines',
            table: {
              headerRows: 1,
              widths: [70, '*', 60, 46, 46],
              body: [
                ['Result', 'Item', 'Class', 'Ordered', 'Now'].map((t) => ({ text: t, color: '#5A6168' })),
                ...deviations.map((l) => [
                  words[l.result],
                  `${l.title}. ${l.sentence}`,
                  l.pressureClass,
                  String(l.ordered),
                  String(l.delivered),
                ]),
              ],
            },
          },
      heading('Found on arrival'),
      ...(found.length === 0
        ? [{ text: 'Nothing was found on the items.' }]
        : found.map((f): Content => ({
            unbreakable: true,
            margin: [0, 0, 0, 8],
            stack: [
              {
                text: [
                  { text: f.serial, bold: true },
                  `  ${f.title}, lot ${f.lot}: ${f.state === 'remark' ? 'accepted with remark' : f.state}. ${f.remark}`,
                ],
              },
              ...(f.verdict?.measured
                ? [{ text: f.verdict.measured.sentences.join(' '), color: '#5A6168' }]
                : []),
              ...(f.damage ? [{ svg: damageSvg({ ...f, damage: f.damage }) }] : []),
            ],
          }))),
      ...(photos.length > 0
        ? [
            heading('Photos'),
            {
              columns: [0, 1].map((side) => ({
                stack: photos
                  .filter((_p, i) => i % 2 === side)
                  .map((p): Content => ({
                    unbreakable: true,
                    stack: [
                      p.image
                        ? { image: p.image, fit: [250, 190] as [number, number] }
                        : {
                            text: 'This picture cannot be printed; it is kept with the item.',
                            italics: true,
                          },
                      {
                        text: `${p.serial} · ${p.sha256.slice(0, 16)}`,
                        fontSize: 7,
                        color: '#5A6168',
                        margin: [0, 2, 0, 8],
                      },
                    ],
                  })),
              })),
              columnGap: 12,
            },
          ]
        : []),
      { text: `Drafted by ${author}.`, margin: [0, 14, 0, 0] },
    ],
  }
  return makePdf(definition)
}
