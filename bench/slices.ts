/**
 * Rates of several functions in one run, measured in turns so that a slow moment of the machine hits them
 * all.
 */
export function rates(
  functions: Record<string, () => unknown>,
  { slices = 12, milliseconds = 150 } = {},
): Record<string, number> {
  const keys = Object.keys(functions)
  const done: Record<string, { n: number; ns: number }> = Object.fromEntries(
    keys.map((k) => [k, { n: 0, ns: 0 }]),
  )
  for (const key of keys)
    for (const end = performance.now() + 300; performance.now() < end;) functions[key]!()
  for (let slice = 0; slice < slices; slice++) {
    for (const key of keys) {
      const start = performance.now()
      const end = start + milliseconds
      let n = 0
      do {
        functions[key]!()
        n++
      } while (performance.now() < end)
      done[key]!.n += n
      done[key]!.ns += performance.now() - start
    }
  }
  return Object.fromEntries(keys.map((k) => [k, (done[k]!.n / done[k]!.ns) * 1000]))
}
