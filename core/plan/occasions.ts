/** When a step is watched, where it is not one in so many. */
export const occasions = ['first-of-day', 'first-of-crew', 'after-rejection'] as const
export type Occasion = (typeof occasions)[number]

/** How much is watched of a step under surveillance: one in so many, or whenever there is an occasion. */
export type Rate = number | Occasion

export const MOST_IN = 1000

/** Whether this is a rate: a whole number from 1 to 1000, or an occasion. */
export const isRate = (value: unknown): value is Rate =>
  (typeof value === 'number' && Number.isInteger(value) && value >= 1 && value <= MOST_IN) ||
  (occasions as readonly unknown[]).includes(value)

const titles: Record<Occasion, string> = {
  'first-of-day': 'first of the day',
  'first-of-crew': 'first of a crew',
  'after-rejection': 'after a rejection',
}

/** A rate as the plan prints it: "1 in 5", "first of the day". */
export const rateWords = (rate: Rate): string => (typeof rate === 'number' ? `1 in ${rate}` : titles[rate])

/** The work of the same crew by the same procedure that was begun last before this. */
export interface BegunBefore {
  /** the day in the project's zone on which it was begun, as 2026-05-01 */
  day: string
  /** it stands rejected, or something of the crew's by this procedure was reported since it was begun */
  rejected: boolean
}

/**
 * What occasions the beginning of a piece of work is. They are settled once, when the crew begins it, from
 * what was known then.
 *
 * @param day on which it is begun, in the project's zone
 * @param before null where the crew never worked by this procedure
 */
export function occasionsAt(day: string, before: BegunBefore | null): Occasion[] {
  if (before === null) return ['first-of-day', 'first-of-crew']
  const out: Occasion[] = []
  if (before.day !== day) out.push('first-of-day')
  if (before.rejected) out.push('after-rejection')
  return out
}
