/** What a limit, or a later step, may take of several readings. */
export const statistics: Record<string, (values: number[]) => number> = {
  mean: (v) => v.reduce((sum, x) => sum + x, 0) / v.length,
  min: (v) => Math.min(...v),
  max: (v) => Math.max(...v),
  range: (v) => Math.max(...v) - Math.min(...v),
}
