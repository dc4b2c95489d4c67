/** Why something did not conform, from the short list of the trade. */
export const causes = [
  'preparation',
  'alignment',
  'seal',
  'lubricant',
  'marks',
  'time',
  'torque',
  'weather',
  'material',
  'tool',
  'paper',
] as const
export type Cause = (typeof causes)[number]

/** So many joints of a crew are looked back over. */
export const LOOKED_BACK = 20
/** The third time at one step asks for a corrective action. */
export const ASKS_FOR_ACTION = 3

export interface Repeat {
  /** this one among them */
  times: number
  /** reports before it, the latest first */
  before: { id: string; number: string }[]
  asksForAction: boolean
}

/**
 * Whether a report is one of several: the same step, the same crew, within its last joints.
 *
 * @param own the step of the report, without its end
 * @param others reports on those joints, the latest first
 */
export function repeatOf(
  own: string | null,
  others: readonly { id: string; number: string; step: string | null }[],
): Repeat {
  const plain = (step: string | null) => step?.replace(/@.*$/, '') ?? null
  const before = own === null ? [] : others.filter((o) => plain(o.step) === plain(own))
  const times = before.length + 1
  return {
    times,
    before: before.map(({ id, number }) => ({ id, number })),
    asksForAction: times >= ASKS_FOR_ACTION,
  }
}
