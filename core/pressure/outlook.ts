import type { TestMethod, TestNumber } from './methods/define'

/** How far a number may still go before it rejects beyond doubt; negative when it is over already. */
export interface Room {
  key: string
  title: string
  unit: string
  /** it may still grow, or still fall, by so much */
  way: 'grow' | 'fall'
  by: number
}

/**
 * What it takes to pass while a test runs: for each number with a limit, how far it may still move and be
 * accepted by the guarded rule.
 *
 * @param phase the one that is on
 */
export function roomsOf(
  method: TestMethod,
  numbers: Readonly<Record<string, TestNumber>>,
  phase: string | null,
): Room[] {
  return Object.entries(numbers).flatMap(([key, n]): Room[] => {
    const words = method.numbers[key]
    // A limit of nothing leaves no room, and what a phase said that is over moves no more.
    if (n.value === null || !n.limit || !words || words.flag) return []
    if (words.of && words.of !== phase) return []
    const doubt = n.uncertainty ?? 0
    const { title } = words
    if (words.bound === 'at most')
      return [{ key, title, unit: n.unit, way: 'grow', by: n.limit - doubt - n.value }]
    if (words.bound === 'at least')
      return [{ key, title, unit: n.unit, way: 'fall', by: n.value - doubt - n.limit }]
    return []
  })
}
