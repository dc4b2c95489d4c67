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

/** The trace of a pressure test with its phases and the band it must keep in the hold. Hours and kPa. */
export function traceOption(
  samples: readonly Sample[],
  evaluation: TestEvaluation | null,
  testPressure: number,
  band: number,
  c: ChartColours,
): EChartsCoreOption {
  const phases = (evaluation?.phases ?? []).filter((p) => p.key !== 'reduction')
  const hold = evaluation?.phases.find((p) => p.key === 'hold')
  const start = hold ? samples.find((s) => s.t >= hold.from)?.pressure : undefined
  const lines =
    hold && start !== undefined
      ? [1 - band, 1 + band].map((f) => [
          { coord: [hold.from / 3600, (start * f) / 1000] },
          { coord: [hold.to / 3600, (start * f) / 1000] },
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
      name: 'hours',
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
        data: samples.map((s) => [s.t / 3600, s.pressure / 1000]),
        markArea: {
          silent: true,
          label: { color: c.muted, fontSize: 13, position: 'insideTop' },
          data: phases.map((p, i) => [
            {
              name: p.to - p.from > 1200 ? p.title : '',
              xAxis: p.from / 3600,
              itemStyle: { color: i % 2 ? c.wash : 'transparent' },
            },
            { xAxis: p.to / 3600 },
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
    ],
  }
}
