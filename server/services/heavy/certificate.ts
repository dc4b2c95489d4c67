import * as echarts from 'echarts'
import { DateTime } from 'luxon'
import type { TDocumentDefinitions } from 'pdfmake/interfaces'
import { showQuantity } from '#core/quantity/show'
import type { packSheet } from '../pack-sheet'
import { makePdf, PDF_FONT as FONT } from './pdf'
import { pngOf, printable } from '../pictures'
import { escaped, svg, tag } from './svg'

type Sheet = Awaited<ReturnType<typeof packSheet>>

/** The trace with its phases, drawn to an SVG of ink on paper. */
function traceSvg(sheet: Sheet): string {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: 520, height: 230 })
  try {
    chart.setOption({
      animation: false,
      textStyle: { fontFamily: FONT, fontSize: 9, color: '#161A1D' },
      grid: { left: 52, right: 12, top: 22, bottom: 34 },
      xAxis: {
        type: 'value',
        name: 'hours',
        nameLocation: 'middle',
        nameGap: 20,
        splitLine: { show: false },
        max: 'dataMax',
      },
      yAxis: { type: 'value', name: 'kPa', scale: true, splitLine: { lineStyle: { color: '#E5E0D3' } } },
      series: [
        {
          type: 'line',
          showSymbol: false,
          lineStyle: { color: '#0A5A63', width: 1.2 },
          data: (sheet.log?.samples ?? []).map((s) => [s.t / 3600, s.pressure / 1000]),
          markArea: {
            silent: true,
            label: { fontSize: 8, color: '#5A6168' },
            data: (sheet.evaluation?.phases ?? [])
              .filter((p) => p.key !== 'reduction')
              .map((p, i) => [
                { name: p.title, xAxis: p.from / 3600, itemStyle: { color: i % 2 ? '#F1ECDF' : '#FBF8F1' } },
                { xAxis: p.to / 3600 },
              ]),
          },
        },
      ],
    })
    return chart.renderToSVGString()
  } finally {
    chart.dispose()
  }
}

/** The profile of the section with the pressure at its highest and lowest points. */
function profileSvg(sheet: Sheet): string {
  const { points, highest, lowest } = sheet.plan
  const [w, h, pad] = [520, 110, 24]
  const x = (s: number) =>
    pad + ((s - points[0]!.station) / (points.at(-1)!.station - points[0]!.station)) * (w - 2 * pad)
  const y = (z: number) =>
    h -
    pad -
    ((z - lowest.elevation) / Math.max(0.1, highest.elevation - lowest.elevation)) * (h - 2 * pad - 10)
  const mark = (p: typeof highest, dy: number) => {
    const anchor = x(p.station) < w * 0.3 ? 'start' : x(p.station) > w * 0.7 ? 'end' : 'middle'
    const text = `${showQuantity(p.pressure, 'pressure', 'kPa')} at ${p.station.toFixed(0)} m`
    const [cx, cy] = [x(p.station), y(p.elevation)]
    return (
      tag('circle', { cx, cy, r: 2.5, fill: '#0A5A63' }) +
      tag(
        'text',
        { x: cx, y: cy + dy, 'font-size': 8, 'font-family': FONT, 'text-anchor': anchor },
        escaped(text),
      )
    )
  }
  const path = points.map((p) => `${x(p.station)},${y(p.elevation)}`).join(' ')
  const profile = tag('polyline', { fill: 'none', stroke: '#161A1D', 'stroke-width': 1.4, points: path })
  return svg(w, h, profile, mark(highest, -6), mark(lowest, 14))
}

const verdicts: Record<string, string> = {
  accept: 'ACCEPTED',
  reject: 'NOT ACCEPTED',
  'too-close': 'TOO CLOSE TO CALL',
  incomplete: 'INCOMPLETE',
}
const mark = (verdict: string | null) =>
  verdict === null ? '' : ({ accept: 'met', reject: 'not met', 'too-close': 'too close' }[verdict] ?? verdict)

/** One certificate a pack, from its sheet. Times in the project's zone. */
export function certificateDefinition(
  sheet: Sheet,
  project: { name: string; zone: string },
  drawn: readonly (string | null)[],
): TDocumentDefinitions {
  const { pack, plan, evaluation } = sheet
  const time = (ms: number) =>
    DateTime.fromMillis(ms, { zone: project.zone }).toFormat('d LLL yyyy HH:mm ZZZZ')
  const rows = (list: [string, string][]) => ({
    layout: 'lightHorizontalLines',
    table: { widths: [150, '*'], body: list.map(([a, b]) => [{ text: a, color: '#5A6168' }, b]) },
  })
  return {
    pageSize: 'A4',
    pageMargins: [38, 40, 38, 44],
    defaultStyle: { font: FONT, fontSize: 9, color: '#161A1D' },
    info: { title: `Pressure test certificate ${pack.number}` },
    footer: (page, pages) => ({
      margin: [38, 8, 38, 0],
      fontSize: 7,
      color: '#5A6168',
      columns: [
        `Vet Line · ${project.name} · ${pack.number}`,
        { text: `${page} / ${pages}`, alignment: 'right' },
      ],
    }),
    content: [
      {
        columns: [
          {
            stack: [
              { text: 'Pressure test certificate', fontSize: 18, bold: true },
              {
                text: `${pack.number} · ${sheet.line.name}, ${pack.from.toFixed(1)} to ${pack.to.toFixed(1)} m`,
                margin: [0, 2, 0, 0],
              },
              { text: project.name, color: '#5A6168' },
            ],
          },
          {
            width: 'auto',
            stack: [
              {
                text: verdicts[evaluation?.verdict ?? 'incomplete']!,
                bold: true,
                fontSize: 13,
                alignment: 'right',
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
        ['Method', `Polyethylene, expansion and hold (${pack.method}), sample of ordinary practice`],
        [
          'Test pressure at the gauge',
          `${showQuantity(pack.design.testPressure, 'pressure', 'kPa')} at ${pack.design.gaugeElevation.toFixed(2)} m`,
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
        [
          'Pressure along the section',
          `${showQuantity(plan.highest.pressure, 'pressure', 'kPa')} at the highest point, ` +
            `${showQuantity(plan.lowest.pressure, 'pressure', 'kPa')} at the lowest`,
        ],
        ['Thrust on each closure', showQuantity(plan.endThrust, 'force', 'kN', 3)],
        ['Log', sheet.log ? `${sheet.log.count} samples from ${time(sheet.log.startedAt)}` : 'none'],
        [
          'Deviations',
          sheet.deviations?.reason
            ? `Started with open rows (${sheet.deviations.open.join(', ')}): ${sheet.deviations.reason}`
            : 'none',
        ],
      ]),
      { text: 'Profile and pressure', bold: true, margin: [0, 12, 0, 2] },
      { svg: profileSvg(sheet) },
      { text: 'Trace', bold: true, margin: [0, 8, 0, 2] },
      { svg: traceSvg(sheet) },
      { text: 'Numbers', bold: true, margin: [0, 10, 0, 2], pageBreak: 'before' },
      {
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          widths: [150, 110, '*', 50],
          body: [
            ['What', 'Found', 'Criterion or formula', 'Verdict'].map((t) => ({ text: t, color: '#5A6168' })),
            ...(evaluation?.numbers ?? []).map((n) => [n.title, n.text, n.formula, mark(n.verdict)]),
          ],
        },
      },
      ...(evaluation?.notes.length
        ? [
            {
              text: `Log: ${evaluation.notes.map((n) => `${n.sentence} (${n.count})`).join(' ')}`,
              margin: [0, 6, 0, 0] as [number, number, number, number],
            },
          ]
        : []),
      { text: 'Ready list', bold: true, margin: [0, 12, 0, 2] },
      {
        layout: 'lightHorizontalLines',
        table: { widths: [180, 50, '*'], body: sheet.ready.map((r) => [r.title, r.state, r.sentence]) },
      },
      { text: 'Signatures', bold: true, margin: [0, 12, 0, 4] },
      ...(sheet.signatures.length === 0
        ? [{ text: 'Not signed.' }]
        : sheet.signatures.map((s, i) => ({
            unbreakable: true,
            margin: [0, 0, 0, 6] as [number, number, number, number],
            columns: [
              drawn[i]
                ? { width: 150, image: drawn[i], fit: [140, 48] as [number, number] }
                : { width: 150, text: 'The drawn signature cannot be printed.', italics: true },
              {
                stack: [
                  { text: s.name, bold: true },
                  `${s.role}, ${time(s.at)}`,
                  { text: `bound to ${s.digest}`, fontSize: 7, color: '#5A6168' },
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
              { text: 'Digest of the record of this pack', color: '#5A6168' },
              { text: sheet.digest ?? '', fontSize: 8 },
              {
                text: 'The log lies beside this certificate as CSV. Local rules and the engineer’s approved plan govern.',
                margin: [0, 6, 0, 0],
              },
            ],
          },
        ],
      },
    ],
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
