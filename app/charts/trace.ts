import { showNumber } from '#core/quantity/show'
import { inSite, unitShown } from '#core/quantity/site-units'
import type { EChartsCoreOption } from 'echarts/core'
import type { Point } from '#core/pressure/curve'
import { markWords, type Mark } from '#core/pressure/marks'
import type { TestEvaluation } from '#core/pressure/report'
import type { Sample } from '#core/pressure/log'
import { timeUnit } from '#core/pressure/time-unit'

/** The colours that a chart takes from the page, so that day and night agree. */
export interface ChartColours {
  ink: string
  muted: string
  hair: string
  line: string
  wash: string
  band: string
}

export const pageColours = (): ChartColours => {
  const css = getComputedStyle(document.documentElement)
  const of = (name: string) => css.getPropertyValue(name).trim()
  return {
    ink: of('--ink'),
    muted: of('--muted'),
    hair: of('--hair'),
    line: of('--line'),
    wash: of('--wash'),
    band: of('--accepted'),
  }
}

/** A pressure test as it is drawn. */
export interface TraceShown {
  samples: readonly Sample[]
  startedAt: number | null
  evaluation: TestEvaluation | null
  testPressure: number
  /** share of the pressure that the hold may stray by; 0 without */
  band: number
  /** over its stretch, Pa/s with half its interval */
  trend: { from: number; to: number; slope: number; half: number } | null
  /** the hold without what the temperature did */
  corrected: readonly Point[] | null
  /** readings left out of the evaluation */
  left: readonly Point[]
  marks: readonly Mark[]
}

const line = (name: string, data: unknown[], colour: string, more: object = {}) => ({
  ...{ type: 'line', name, showSymbol: false, data, itemStyle: { color: colour } },
  ...more,
})

/** The trend through the middle of the readings, and how far it may as well go. */
function trendSeries({ samples, corrected, trend }: TraceShown, unit: number, c: ChartColours) {
  if (!trend) return []
  const points = corrected ?? samples.map((s) => ({ t: s.t, v: s.pressure }))
  const inside = points.filter((s) => s.t >= trend.from && s.t <= trend.to)
  if (inside.length < 2) return []
  const mid = inside.reduce((sum, s) => sum + s.t, 0) / inside.length
  const level = inside.map((s) => s.v - trend.slope * (s.t - mid)).sort((a, b) => a - b)
  const middle = level[level.length >> 1]!
  const at = (slope: number) =>
    [trend.from, trend.to].map((t) => [t / unit, inSite(middle + slope * (t - mid), 'kPa')])
  return (
    [
      ['Trend', trend.slope, { width: 2, type: 'solid' }],
      ['at least', trend.slope - trend.half, { width: 1.5, type: 'dotted' }],
      ['at most', trend.slope + trend.half, { width: 1.5, type: 'dotted' }],
    ] as const
  ).map(([name, slope, style]) =>
    line(name, at(slope), c.ink, {
      ...{ silent: true, tooltip: { show: false }, lineStyle: { ...style, color: c.ink } },
    }),
  )
}

/** a silence of so many usual waits, and longer than so many seconds, is drawn as one */
const WAITS = 5
const SILENCE = 60

/** Readings as points of the chart; where nothing came for long the line is broken. */
export function pointsOf(samples: readonly Sample[], unit: number): (readonly [number, number | null])[] {
  const steps = samples.slice(1).map((s, i) => s.t - samples[i]!.t)
  const usual = [...steps].sort((a, b) => a - b)[steps.length >> 1] ?? 0
  return samples.flatMap((s, i) => {
    const point = [s.t / unit, inSite(s.pressure, 'kPa')] as const
    const step = steps[i - 1] ?? 0
    return step > WAITS * usual && step > SILENCE
      ? [[(s.t - step / 2) / unit, null] as const, point]
      : [point]
  })
}

function bandLines({ samples, evaluation, band }: TraceShown, unit: number) {
  const hold = evaluation?.phases.find((p) => p.key === 'hold')
  const start = hold && band > 0 ? samples.find((s) => s.t >= hold.from)?.pressure : undefined
  if (!hold || start === undefined) return []
  return [1 - band, 1 + band].map((f) => [
    { coord: [hold.from / unit, inSite(start * f, 'kPa')] },
    { coord: [hold.to / unit, inSite(start * f, 'kPa')] },
  ])
}

function phaseAreas({ samples, evaluation }: TraceShown, unit: number, c: ChartColours) {
  const phases = (evaluation?.phases ?? []).filter((p) => p.key !== 'reduction')
  const whole = samples.at(-1)?.t || 1
  return phases.map((p, i) => [
    {
      name: (p.to - p.from) / whole > 0.08 ? p.title : '',
      xAxis: p.from / unit,
      itemStyle: { color: i % 2 ? c.wash : 'transparent' },
    },
    { xAxis: p.to / unit },
  ])
}

/**
 * The trace of a pressure test with its phases, its marks and the band it must keep in the hold.
 *
 * @param only the stretch that is shown, s; the whole test without
 */
export function traceOption(
  whole: TraceShown,
  c: ChartColours,
  only: { from: number; to: number } | null = null,
): EChartsCoreOption {
  const shown = only
    ? { ...whole, samples: whole.samples.filter((s) => s.t >= only.from && s.t <= only.to) }
    : whole
  const { samples, testPressure, corrected, left, marks, startedAt } = shown
  const { name: unitName, of: unit } = timeUnit(whole.samples.at(-1)?.t ?? 0)
  const within = (t: number) => !only || (t >= only.from && t <= only.to)
  const kPa = (points: readonly Point[]) => points.map((p) => [p.t / unit, inSite(p.v, 'kPa')])
  return {
    animation: false,
    textStyle: { fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 14, color: c.ink },
    grid: { left: 64, right: 20, top: 34, bottom: 44 },
    tooltip: {
      trigger: 'axis',
      valueFormatter: (v: unknown) => (typeof v === 'number' ? `${v.toFixed(1)} ${unitShown('kPa')}` : ''),
      backgroundColor: c.wash,
      borderColor: c.hair,
      textStyle: { color: c.ink },
    },
    xAxis: {
      ...{ type: 'value', name: unitName, nameLocation: 'middle', nameGap: 28, max: 'dataMax' },
      ...(only ? { min: 'dataMin' } : {}),
      axisLabel: {
        color: c.muted,
        // Where the readings begin and end is no round figure: it would stand on the next one.
        ...{ showMaxLabel: false, showMinLabel: only === null },
        formatter: (v: number) => String(v >= 10 ? Math.round(v) : Math.round(v * 10) / 10),
      },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: c.muted } },
    },
    yAxis: {
      ...{ type: 'value', name: unitShown('kPa'), scale: true },
      axisLabel: { color: c.muted, formatter: (v: number) => showNumber(v) },
      // The noise of a gauge about nothing is not worth a part of the axis.
      min: (v: { min: number; max: number }) => (v.min < 0 && v.min > -0.05 * v.max ? 0 : null),
      nameTextStyle: { color: c.muted },
      splitLine: { lineStyle: { color: c.hair } },
    },
    dataZoom: [{ type: 'inside', filterMode: 'none' }],
    series: [
      line('Pressure', pointsOf(samples, unit), c.line, {
        lineStyle: { width: 2, color: c.line },
        markArea: {
          silent: true,
          label: { color: c.muted, fontSize: 13, position: 'insideTop' },
          data: phaseAreas(shown, unit, c),
        },
        markLine: {
          silent: true,
          symbol: 'none',
          label: { show: false },
          lineStyle: { color: c.band, width: 2, type: 'dashed' },
          data: [
            ...(only
              ? []
              : [
                  {
                    yAxis: inSite(testPressure, 'kPa'),
                    lineStyle: { color: c.muted, type: 'dotted', width: 1 },
                  },
                ]),
            ...bandLines(shown, unit),
            ...marks
              .filter((m) => startedAt !== null && within((m.at - startedAt) / 1000))
              .map((m) => ({
                name: markWords[m.kind],
                xAxis: startedAt === null ? 0 : (m.at - startedAt) / 1000 / unit,
                lineStyle: { color: c.ink, type: 'solid', width: 1 },
                label: {
                  ...{ show: true, formatter: '{b}', color: c.ink, fontSize: 12 },
                  ...{ rotate: 90, position: 'insideEndTop' },
                },
              })),
          ],
        },
      }),
      ...(corrected
        ? [
            line('Corrected for temperature', kPa(corrected), c.band, {
              lineStyle: { width: 1.5, color: c.band },
            }),
          ]
        : []),
      ...(left.length > 0
        ? [
            {
              ...{ type: 'scatter', name: 'Left out', symbol: 'emptyCircle', symbolSize: 8 },
              ...{ itemStyle: { color: c.ink }, data: kPa(left.filter((p) => within(p.t))) },
            },
          ]
        : []),
      ...trendSeries(shown, unit, c),
    ],
  }
}
