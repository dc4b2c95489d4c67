import * as yup from 'yup'
import { guardBandVerdict } from '../calculators/guard-band'
import { showNumber, showDuration, showQuantity } from '../quantity/show'
import type { Entry } from '../record/entry'
import { answer, finite } from '../record/payload'
import { uuid } from '../record/uuid'
import { chainsOf } from './chain'
import { defineCheck, type CheckContext, type Made } from './define'
import { figuresOf } from './figures'
import { formula, stepName } from './schema'
import { faultsSay, plain, WORD, type Fault, type Verdict } from './verdict'

export interface SurveyCheck {
  kind: 'survey'
  /** inside diameter of the round pipe */
  base: string
  limit?: string
  /** of one diameter */
  uncertainty?: string
  /** the step that the rest counts from, and how long it is */
  from?: string
  rest?: string
  minPoints?: string
}

export interface SurveyRow {
  station: number
  vertical: number
  horizontal?: number | null
}

/** One station as it counts. */
export interface SurveyPoint extends SurveyRow {
  entry: string
  deflection: number
  verdict: 'accept' | 'reject' | 'too-close'
}

/** Rows this near are of one station, m. */
const SAME = 0.05
const percent = (ratio: number) => `${showNumber(Math.round(ratio * 1e5) / 1e3)} %`

interface SurveyFigures {
  base: number
  limit: number
  uncertainty: number
  minPoints: number
}

/** What a step's figures come to; NaN where one is missing. */
export const surveyFigures = (made: Made<SurveyCheck>, slots: CheckContext['slots']): SurveyFigures =>
  figuresOf(made, slots, 'base', 'limit', 'uncertainty', 'minPoints')

/**
 * The stations that count: a later row takes the place of an earlier one there, over a rejected one only
 * with a reason.
 */
export function surveyPoints(
  entries: readonly Entry[],
  { base, limit, uncertainty }: SurveyFigures,
  rule: CheckContext['rule'],
): SurveyPoint[] {
  let points: SurveyPoint[] = []
  for (const { entry } of chainsOf(entries).counted) {
    const reasoned = typeof entry.payload.reason === 'string'
    for (const row of Array.isArray(entry.payload.rows) ? (entry.payload.rows as SurveyRow[]) : []) {
      if (!Number.isFinite(row?.station) || !Number.isFinite(row?.vertical)) continue
      const deflection = (base - row.vertical) / base
      const { verdict } = guardBandVerdict(deflection, null, limit, uncertainty / base, rule)
      const stays = (p: SurveyPoint) =>
        Math.abs(p.station - row.station) > SAME + 1e-9 || (p.verdict === 'reject' && !reasoned)
      points = [...points.filter(stays), { ...row, entry: entry.id, deflection, verdict }]
    }
  }
  return points.sort((a, b) => a.station - b.station)
}

const where = (p: SurveyPoint) => `${percent(p.deflection)} at ${showQuantity(p.station, 'length', 'm')}`

function faultsOf(entry: string, points: readonly SurveyPoint[], limit: number): Fault[] {
  const own = points.filter((p) => p.entry === entry)
  const of = (verdict: SurveyPoint['verdict']) => own.filter((p) => p.verdict === verdict).map(where)
  const [over, near] = [of('reject'), of('too-close')]
  return [
    ...(over.length > 0
      ? [
          {
            entry,
            code: 'deflection',
            sentence: `Deflected ${over.join(', ')}, at most ${percent(limit)}.`,
            verdict: 'reject' as const,
          },
        ]
      : []),
    ...(near.length > 0
      ? [
          {
            entry,
            code: 'too-close',
            sentence: `Too close to ${percent(limit)} to call: ${near.join(', ')}.`,
            verdict: 'too-close' as const,
          },
        ]
      : []),
  ]
}

/** Entries measured before the pipe has rested. */
function early(entries: readonly Entry[], made: Made<SurveyCheck>, { start }: CheckContext): Fault[] {
  if (made.from < 0) return []
  return entries
    .filter((e) => start.state !== 'accepted' || (start.until !== null && e.recordedAt < start.until))
    .map((e) => ({
      entry: e.id,
      code: 'too-early',
      sentence: 'Measured before the fill had rested: measure again later.',
      verdict: 'reject',
    }))
}

const missing = (made: Made<SurveyCheck>, context: CheckContext) =>
  plain(
    'blocked',
    `The deflection cannot be worked out: ${context.missing(...Object.values(made.formulas))}.`,
  )

function judgeAll(made: Made<SurveyCheck>, entries: readonly Entry[], context: CheckContext): Verdict {
  const figures = surveyFigures(made, context.slots)
  if (Object.values(figures).some(Number.isNaN)) return missing(made, context)
  if (made.from >= 0 && context.start.timeless !== null)
    return plain('blocked', `How long it rests cannot be worked out: ${context.start.timeless}.`)
  const points = surveyPoints(entries, figures, context.rule)
  const counted = chainsOf(entries).counted.map((c) => c.entry)
  const tooEarly = early(counted, made, context)
  const faults = counted.flatMap((e) => [
    ...tooEarly.filter((f) => f.entry === e.id),
    ...faultsOf(e.id, points, figures.limit),
  ])
  const rejected = faults.filter((f) => f.verdict === 'reject')
  if (rejected.length > 0)
    return { state: 'rejected', sentence: () => faultsSay(rejected), findings: [], faults }
  const short = `${points.length} of ${showNumber(figures.minPoints)} stations measured.`
  if (points.length < figures.minPoints - 1e-9) return { ...plain('in-work', short), faults }
  if (faults.length > 0)
    return { state: 'too-close', sentence: () => faultsSay(faults), findings: [], faults }
  // What came late may have been measured the same evening.
  if (made.from >= 0 && (context.start.late || counted.some((e) => e.late)))
    return plain('held', `Recorded late, and proves no night’s rest. ${WORD}`)
  const most = Math.max(...points.map((p) => p.deflection))
  return plain(
    'accepted',
    `${points.length} stations, at most ${percent(most)} of ${percent(figures.limit)}.`,
  )
}

/** Deflection by station, after the fill has rested. */
export const survey = defineCheck<SurveyCheck>({
  kind: 'survey',
  subjects: ['reach'],
  schema: {
    base: formula().required(),
    limit: formula(),
    uncertainty: formula(),
    from: stepName(),
    rest: formula(),
    minPoints: formula(),
  },
  answers: {
    survey: answer({
      rows: yup
        .array()
        .of(
          yup
            .object({
              station: finite().required(),
              vertical: finite().moreThan(0).required(),
              horizontal: finite().moreThan(0).nullable(),
            })
            .exact()
            .required(),
        )
        .min(1)
        .max(2000)
        .required(),
      replaces: uuid(),
    }),
  },
  compile: (check, compiler) => ({
    from: check.from === undefined ? -1 : compiler.find(check.from, 'from'),
    earliest: compiler.si(check.rest ?? 12 * 3600, 'rest', 'time'),
    formulas: {
      base: compiler.si(check.base, 'base', 'length'),
      limit: compiler.si(check.limit ?? 0.05, 'limit', 'ratio'),
      uncertainty: compiler.si(check.uncertainty ?? 0, 'uncertainty', 'length'),
      minPoints: compiler.si(check.minPoints ?? 1, 'minPoints', 'ratio'),
    },
  }),
  clock: () => ({ action: 'Measure the diameters', gate: null }),
  unanswered(made, { start, now }) {
    if (made.from >= 0 && start.until !== null && now < start.until)
      return plain('waiting', `The fill rests ${showDuration((start.until - start.at!) / 1000)} first.`)
    return plain('not-started', 'No station is measured.')
  },
  judgeAll,
  figures(made, entries, slots): Record<string, number> {
    const points = surveyPoints(entries, surveyFigures(made, slots), 'guarded')
    const found = points.map((p) => p.deflection).filter(Number.isFinite)
    if (found.length === 0) return {}
    return {
      deflection: found.reduce((a, b) => a + b, 0) / found.length,
      deflectionMost: found.reduce((a, b) => Math.max(a, b)),
    }
  },
  describe: {
    rule: (check) => `Deflection at most ${check.limit ?? '5 %'}`,
    entry: ({ rows }) => {
      const list = rows as SurveyRow[]
      return `${list.length} ${list.length === 1 ? 'station' : 'stations'}`
    },
  },
})
