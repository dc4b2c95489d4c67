import { inSite, unitShown } from '#core/quantity/site-units'
import * as echarts from 'echarts'
import type { Mark } from '#core/pressure/marks'
import { markWords } from '#core/pressure/marks'
import type { Sample } from '#core/pressure/log'
import { timeUnit } from '#core/pressure/time-unit'
import type { PackPlan } from '#core/pressure/pack'
import type { TestEvaluation } from '#core/pressure/report'
import { showMetres, showQuantity } from '#core/quantity/show'
import { PDF_FONT as FONT } from './pdf'
import { escaped, svg, tag } from './svg'

const INK = '#161A1D'
const PALE = '#5A6168'
const LINE = '#0A5A63'

export interface DrawnTrace {
  startedAt: number
  samples: readonly Sample[]
}

/** The trace with its phases and marks, drawn to an SVG of ink on paper. */
export function traceSvg(
  log: DrawnTrace | null,
  evaluation: TestEvaluation | null,
  marks: readonly Mark[],
): string {
  const samples = log?.samples ?? []
  const unit = timeUnit(samples.at(-1)?.t ?? 0)
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: 520, height: 230 })
  try {
    chart.setOption({
      animation: false,
      textStyle: { fontFamily: FONT, fontSize: 9, color: INK },
      grid: { left: 52, right: 12, top: 22, bottom: 34 },
      xAxis: {
        ...{ type: 'value', name: unit.name, nameLocation: 'middle', nameGap: 20, max: 'dataMax' },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        name: unitShown('kPa'),
        scale: true,
        splitLine: { lineStyle: { color: '#E5E0D3' } },
      },
      series: [
        {
          ...{ type: 'line', showSymbol: false, lineStyle: { color: LINE, width: 1.2 } },
          data: samples.map((s) => [s.t / unit.of, inSite(s.pressure, 'kPa')]),
          markArea: {
            silent: true,
            label: { fontSize: 8, color: PALE },
            data: (evaluation?.phases ?? [])
              .filter((p) => p.key !== 'reduction')
              .map((p, i) => [
                {
                  name: p.title,
                  xAxis: p.from / unit.of,
                  itemStyle: { color: i % 2 ? '#F1ECDF' : '#FBF8F1' },
                },
                { xAxis: p.to / unit.of },
              ]),
          },
          markLine: {
            ...{ silent: true, symbol: 'none', lineStyle: { color: PALE, width: 0.7, type: 'dashed' } },
            label: { fontSize: 7, color: PALE, formatter: '{b}', rotate: 90, position: 'insideEndTop' },
            data: log
              ? marks.map((m) => ({
                  name: markWords[m.kind],
                  xAxis: (m.at - log.startedAt) / 1000 / unit.of,
                }))
              : [],
          },
        },
      ],
    })
    return chart.renderToSVGString()
  } finally {
    chart.dispose()
  }
}

const W = 520
const PAD = 24
const words = (x: number, y: number, text: string, anchor = 'middle') =>
  tag('text', { x, y, 'font-size': 8, 'font-family': FONT, 'text-anchor': anchor }, escaped(text))

/** The profile of the section with the pressure at its highest and lowest points. */
export function profileSvg({ points, highest, lowest }: PackPlan): string {
  const h = 110
  const span = points.at(-1)!.station - points[0]!.station
  const x = (s: number) => PAD + ((s - points[0]!.station) / span) * (W - 2 * PAD)
  const rise = Math.max(0.1, highest.elevation - lowest.elevation)
  const y = (z: number) => h - PAD - ((z - lowest.elevation) / rise) * (h - 2 * PAD - 10)
  const mark = (p: typeof highest, dy: number) => {
    const anchor = x(p.station) < W * 0.3 ? 'start' : x(p.station) > W * 0.7 ? 'end' : 'middle'
    const text = `${showQuantity(p.pressure, 'pressure', 'kPa')} at ${showMetres(p.station, 0)}`
    const [cx, cy] = [x(p.station), y(p.elevation)]
    return tag('circle', { cx, cy, r: 2.5, fill: LINE }) + words(cx, cy + dy, text, anchor)
  }
  const path = points.map((p) => `${x(p.station)},${y(p.elevation)}`).join(' ')
  const profile = tag('polyline', { fill: 'none', stroke: INK, 'stroke-width': 1.4, points: path })
  return svg(W, h, profile, mark(highest, -6), mark(lowest, 14))
}

/** A line closed by two plugs, for a test with air: its length and what pushes on each. */
export function plugsSvg(from: number, to: number, thrust: number, diameter: number): string {
  const [h, top, bottom] = [84, 30, 54]
  const [a, b] = [PAD + 50, W - PAD - 50]
  const pipe = [top, bottom].map((y) =>
    tag('line', { x1: a - 20, x2: b + 20, y1: y, y2: y, stroke: INK, 'stroke-width': 1.4 }),
  )
  const plug = (x: number) =>
    tag('rect', { x: x - 6, y: top, width: 12, height: bottom - top, rx: 4, fill: LINE })
  const push = (x: number, way: -1 | 1) =>
    tag('path', {
      d: `M${x + way * 8},42 h${way * 26} m0,-5 l${way * 8},5 l${-way * 8},5`,
      ...{ fill: 'none', stroke: INK, 'stroke-width': 1.2 },
    })
  const force = showQuantity(thrust, 'force', 'kN', 3)
  return svg(
    ...[W, h],
    ...pipe,
    ...[plug(a), plug(b), push(a, -1), push(b, 1)],
    words(a, bottom + 16, `${showMetres(from, 1)}, ${force}`),
    words(b, bottom + 16, `${showMetres(to, 1)}, ${force}`),
    words(
      W / 2,
      46,
      `air over ${showMetres(to - from, 1)}, inside diameter ${showQuantity(diameter, 'length', 'mm', 3)}`,
    ),
  )
}
