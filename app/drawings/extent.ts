/** Least and greatest of some values, which are at least one. */
export const extent = (values: readonly number[]): [number, number] => [
  values.reduce((a, b) => Math.min(a, b)),
  values.reduce((a, b) => Math.max(a, b)),
]
