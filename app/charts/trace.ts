import type { EChartsCoreOption } from 'echarts/core'
import type { TestEvaluation } from '#core/pressure/report'
import type { Sample } from '#core/pressure/log'

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

/** The unit of time in which a test of such a length is read. */
export function timeUnit(seconds: number): { name: string; of: number } {
  if (seconds > 2 * 3600) return { name: 'hours', of: 3600 }
  return seconds > 300 ? { name: 'minutes', of: 60 } : { name: 'seconds', of: 1 }
}

interface Trend {
  from: number
  to: number
  /** Pa/s, with half its interval */
  slope: number
  half: number
}

/** The trend over its stretch through the middle of the readings, and how far it may as well go. */
function trendSeries(samples: readonly Sample[], trend: Trend, unit: number, c: ChartColours) {
  const inside = samples.filter((s) => s.t >= trend.from && s.t <= trend.to)
  if (inside.length < 2) return []
  const mid = inside.reduce((sum, s) => sum + s.t, 0) / inside.length
  const level = inside.map((s) => s.pressure - trend.slope * (s.t - mid)).sort((a, b) => a - b)
  const middle = level[level.length >> 1]!
  const line = (slope: number) =>
    [trend.from, trend.to].map((t) => [t / unit, (middle + slope * (t - mid)) / 1000])
  const style = (type: 'solid' | 'dotted') => ({ width: type === 'solid' ? 2 : 1.5, type, color: c.ink })
  return [
    { name: 'Trend', slope: trend.slope, type: 'solid' as const },
    { name: 'at least', slope: trend.slope - trend.half, type: 'dotted' as const },
    { name: 'at most', slope: trend.slope + trend.half, type: 'dotted' as const },
  ].map((s) => ({
    ...{ type: 'line', name: s.name, showSymbol: false, silent: true, data: line(s.slope) },
    ...{ lineStyle: style(s.type), itemStyle: { color: c.ink }, tooltip: { show: false } },
  }))
}

/** The trace of a pressure test with its phases and the band it must keep in the hold. */
export function traceOption(
  samples: readonly Sample[],
  evaluation: TestEvaluation | null,
  testPressure: number,
  band: number,
  c: ChartColours,
  trend: Trend | null = null,
): EChartsCoreOption {
  const { name: unitName, of: unit } = timeUnit(samples.at(-1)?.t ?? 0)
  const phases = (evaluation?.phases ?? []).filter((p) => p.key !== 'reduction')
  const hold = evaluation?.phases.find((p) => p.key === 'hold')
  const start = hold ? samples.find((s) => s.t >= hold.from)?.pressure : undefined
  const lines =
    hold && start !== undefined
      ? [1 - band, 1 + band].map((f) => [
          { coord: [hold.from / unit, (start * f) / 1000] },
          { coord: [hold.to / unit, (start * f) / 1000] },
        ])
      : []
  return {
    animation: false,
    textStyle: { fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 14, color: c.ink },
    grid: { left: 64, right: 20, top: 34, bottom: 44 },
    tooltip: {
      trigger: 'axis',
      valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} kPa`,
      backgroundColor: c.wash,
      borderColor: c.hair,
      textStyle: { color: c.ink },
    },
    xAxis: {
      type: 'value',
      name: unitName,
      nameLocation: 'middle',
      nameGap: 28,
      max: 'dataMax',
      axisLabel: { color: c.muted, formatter: (v: number) => String(Math.round(v * 100) / 100) },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: c.muted } },
    },
    yAxis: {
      type: 'value',
      name: 'kPa',
      scale: true,
      axisLabel: { color: c.muted },
      nameTextStyle: { color: c.muted },
      splitLine: { lineStyle: { color: c.hair } },
    },
    dataZoom: [{ type: 'inside', filterMode: 'none' }],
    series: [
      {
        type: 'line',
        name: 'Pressure',
        showSymbol: false,
        lineStyle: { width: 2, color: c.line },
        itemStyle: { color: c.line },
        data: samples.map((s) => [s.t / unit, s.pressure / 1000]),
        markArea: {
          silent: true,
          label: { color: c.muted, fontSize: 13, position: 'insideTop' },
          data: phases.map((p, i) => [
            {
              name: (p.to - p.from) / (samples.at(-1)?.t || 1) > 0.08 ? p.title : '',
              xAxis: p.from / unit,
              itemStyle: { color: i % 2 ? c.wash : 'transparent' },
            },
            { xAxis: p.to / unit },
          ]),
        },
        markLine: {
          silent: true,
          symbol: 'none',
          label: { show: false },
          lineStyle: { color: c.band, width: 2, type: 'dashed' },
          data: [
            { yAxis: testPressure / 1000, lineStyle: { color: c.muted, type: 'dotted', width: 1 } },
            ...lines,
          ],
        },
      },
      ...(trend ? trendSeries(samples, trend, unit, c) : []),
    ],
  }
}
