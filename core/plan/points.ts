import type { SubjectState } from '../judgement/types'
import type { InterventionPoint } from '../procedure/types'
import type { Rate } from './occasions'

/** Who comes to look; the crew itself makes everything. */
export const parties = ['inspector', 'witness', 'authority'] as const
export type Party = (typeof parties)[number]

export const partyTitles: Record<Party, string> = {
  inspector: 'Inspector',
  witness: 'Client’s witness',
  authority: 'Authority',
}
export const pointTitles: Record<InterventionPoint, string> = {
  H: 'Hold point',
  W: 'Witness point',
  S: 'Surveillance',
  R: 'Review',
}

/** One change of the inspection and test plan: a cell of the matrix, for where and when it counts. */
export interface PointRule {
  id: string
  /** key of the procedure */
  procedure: string
  /** key of the step; `*` turns every point that a procedure has into a hold, for a crew that is new */
  step: string
  party: Party
  point: InterventionPoint | null
  /** of surveillance: how much is watched */
  rate: Rate | null
  /** ids; null for every line or crew */
  line: string | null
  crew: string | null
  /** days; what is opened from the first to the last of them */
  from: string
  until: string | null
  /** of a crew that is new: until so many of its joints in a row were good; as long as it counts when left out */
  good?: number | null
  reason: string
  by: string
  /** ms */
  at: number
  /** by a second engineer; until then it changes nothing */
  review: { by: string; at: number; accepted: boolean; reason: string } | null
}

/** What a subject is, as far as the plan tells subjects apart. */
export interface Where {
  line: string | null
  crew: string | null
  /** the day on which it was opened, or today */
  day: string
  /** ids of rules for new crews that its crew had worked its way out of when it was begun */
  passed?: readonly string[]
}

export interface Cell {
  point: InterventionPoint | null
  rate: Rate | null
  /** the rule that says so; null where the procedure does */
  rule: string | null
}
export type Row = Record<Party, Cell>

const strength: Record<InterventionPoint, number> = { H: 4, W: 3, S: 2, R: 1 }
export const strongest = (points: readonly (InterventionPoint | null)[]): InterventionPoint | null =>
  points.reduce<InterventionPoint | null>(
    (best, p) => (p !== null && (best === null || strength[p] > strength[best]) ? p : best),
    null,
  )

/** One in so many is watched where nobody has said otherwise. */
export const USUAL_RATE = 5

/** Whose a point of a procedure is. */
const usualParty = (point: InterventionPoint): Party => (point === 'W' ? 'witness' : 'inspector')

const counts = (rule: PointRule, { line, crew, day, passed = [] }: Where) =>
  rule.review?.accepted === true &&
  (rule.line === null || rule.line === line) &&
  (rule.crew === null || rule.crew === crew) &&
  rule.from <= day &&
  (rule.until === null || day <= rule.until) &&
  !passed.includes(rule.id)
/** What is said of one crew goes before what is said of a line, and that before what is said of all. */
const nearness = (rule: PointRule) => (rule.crew === null ? 0 : 2) + (rule.line === null ? 0 : 1)

/**
 * One row of the matrix as it counts somewhere: what the procedure says, and over it the rule that is
 * nearest, of equals the one reviewed last.
 *
 * @param point what the procedure, or the project from the start, says of the step
 */
export function rowOf(
  rules: readonly PointRule[],
  procedure: string,
  step: string,
  point: InterventionPoint | null,
  where: Where,
): Row {
  const ours = rules
    .filter((r) => r.procedure === procedure && counts(r, where))
    .sort((a, b) => nearness(b) - nearness(a) || b.review!.at - a.review!.at)
  const row = Object.fromEntries(
    parties.map((party): [Party, Cell] => {
      const rule = ours.find((r) => r.step === step && r.party === party)
      if (rule) return [party, { point: rule.point, rate: rule.rate, rule: rule.id }]
      const own = point !== null && usualParty(point) === party ? point : null
      return [party, { point: own, rate: own === 'S' ? USUAL_RATE : null, rule: null }]
    }),
  ) as Row
  const all = ours.find((r) => r.step === '*')
  if (all && strongest(parties.map((p) => row[p].point)) !== null)
    row[all.party] = { point: 'H', rate: null, rule: all.id }
  return row
}

/** Points of steps as they count somewhere. */
export interface Points {
  /** of several parties the strongest */
  plan: Record<string, InterventionPoint | null>
  /** what other parties want besides, where they do: the client's witness at an inspector's hold */
  beside: Record<string, InterventionPoint[]>
}

/**
 * The points of a procedure's steps as they count somewhere, for the judge.
 *
 * @param steps the procedure's steps with the points that it gives them
 * @param base what the project has said from the start
 */
export function pointsFor(
  rules: readonly PointRule[],
  procedure: string,
  steps: readonly { key: string; point?: InterventionPoint | null | undefined }[],
  base: Readonly<Record<string, InterventionPoint | null>>,
  where: Where,
): Points {
  const plan: Points['plan'] = { ...base }
  const beside: Points['beside'] = {}
  if (!rules.some((r) => r.procedure === procedure && counts(r, where))) return { plan, beside }
  for (const { key, point } of steps) {
    const own = Object.hasOwn(base, key) ? base[key]! : (point ?? null)
    const row = rowOf(rules, procedure, key, own, where)
    const wanted = parties.map((p) => row[p].point)
    const most = strongest(wanted)
    plan[key] = most
    const others = [...new Set(wanted.filter((p): p is InterventionPoint => p !== null && p !== most))]
    if (others.length > 0) beside[key] = others
  }
  return { plan, beside }
}

/** Rules that hold every point of a crew until so many of its joints by a procedure in a row were good. */
export const newCrewRules = (
  rules: readonly PointRule[],
  procedure: string,
  crew: string | null,
): (PointRule & { good: number })[] =>
  rules.filter(
    (r): r is PointRule & { good: number } =>
      typeof r.good === 'number' &&
      r.procedure === procedure &&
      r.crew === crew &&
      r.review?.accepted === true,
  )

/** What came of a piece of work. */
export interface Outcome {
  state: SubjectState
  /** a nonconformance was reported of it, whatever came of that */
  reported: boolean
}

const GOOD: readonly SubjectState[] = ['accepted', 'waiting']

/**
 * How many in a row were good, the latest first: accepted, or waiting only for its time, without a report.
 * What is still worked at is passed over; a report or a rejection ends the row.
 */
export function goodInARow(latestFirst: readonly Outcome[]): number {
  let good = 0
  for (const { state, reported } of latestFirst) {
    if (reported || state === 'rejected') return good
    if (GOOD.includes(state)) good++
  }
  return good
}
