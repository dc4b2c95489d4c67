import * as yup from 'yup'
import { levelSights, type LaserBeam, type LevelBooking, type LevelRow } from '../calculators/level-book'
import { levelRun } from '../calculators/levelling'
import { Problem } from '../problem'
import { showQuantity } from '../quantity/show'
import type { Entry } from '../record/entry'
import { answer, finite } from '../record/payload'
import { uuid } from '../record/uuid'
import { defineCheck, type CheckContext, type Made } from './define'
import { formula, record, truth } from './schema'
import { faultsSay, plain, type Fault, type Verdict } from './verdict'

export interface LevelsCheck {
  kind: 'levels'
  /** level of the benchmark */
  start: string
  /** level of the point where the run closes, and how long the run is */
  close?: string | null
  distance?: string | null
  limits?: { level?: string }
  gravity?: boolean | string
  /** the flow is toward falling stations */
  against?: boolean | string
}

/** A pipe whose invert was found. */
export interface FoundInvert {
  station: number | null
  design: number
  level: number
}

export interface LevelRun {
  inverts: FoundInvert[]
  /** level of every row, m */
  levels: number[]
  misclosure: number | null
  allowed: number | null
}

const NEAR = 1e-9
const mm = (si: number) => showQuantity(Math.round(si * 1e6) / 1e6, 'length', 'mm')
const known = (v: number | null | undefined): v is number => typeof v === 'number'

/** What an entry says was read, and through what. */
export const bookingOf = ({ payload }: Pick<Entry, 'payload'>): LevelBooking => ({
  rows: payload.rows as LevelRow[],
  laser: (payload.laser as LaserBeam | undefined) ?? null,
})

/** Works a booking through. @throws Problem where the sights make no run */
export function runOf(
  booking: LevelBooking,
  start: number,
  close: number | null,
  distance: number | null,
): LevelRun {
  const { rows } = booking
  const { outputs } = levelRun.run({
    sights: levelSights(booking),
    startLevel: start,
    ...(close === null ? {} : { closeLevel: close }),
    ...(distance === null ? {} : { distance }),
  })
  const levels = outputs.levels as number[]
  const inverts = rows.flatMap(({ design, station }, i) =>
    known(design) ? [{ station: station ?? null, design, level: levels[i]! }] : [],
  )
  return {
    inverts,
    levels,
    misclosure: outputs.misclosure as number | null,
    allowed: outputs.allowed as number | null,
  }
}

/** Inverts that stand as high as the one before them in the direction of flow, or higher. */
export function backFalls(inverts: readonly FoundInvert[], against: boolean): FoundInvert[] {
  const placed = inverts
    .filter((p): p is FoundInvert & { station: number } => p.station !== null)
    .sort((a, b) => (against ? b.station - a.station : a.station - b.station))
  return placed.filter((p, i) => i > 0 && p.level >= placed[i - 1]!.level - NEAR)
}

const at = (p: FoundInvert) =>
  p.station === null ? 'a pipe' : `the pipe at ${showQuantity(p.station, 'length', 'm')}`

const sentenceOf = (parts: string[]) => {
  const text = parts.join('; ')
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`
}

function faultsOf(
  entry: string,
  run: LevelRun,
  allowed: number,
  flow: { gravity: boolean; against: boolean },
) {
  const faults: Fault[] = []
  const fault = (code: string, of: readonly FoundInvert[], say: (p: FoundInvert) => string) => {
    if (of.length > 0) faults.push({ entry, code, sentence: sentenceOf(of.map(say)), verdict: 'reject' })
  }
  fault(
    'off-level',
    run.inverts.filter((p) => Math.abs(p.level - p.design) > allowed + NEAR),
    (p) =>
      `${at(p)} lies ${mm(Math.abs(p.level - p.design))} ${p.level > p.design ? 'too high' : 'too low'}, at most ${mm(allowed)}`,
  )
  if (!flow.gravity) return faults
  fault(
    'back-fall',
    backFalls(run.inverts, flow.against),
    (p) => `${at(p)} does not fall from the one before it`,
  )
  fault(
    'no-station',
    run.inverts.filter((p) => p.station === null),
    () => 'an invert is booked without its station, so that its fall cannot be told',
  )
  return faults
}

/** What a step's figures come to; NaN where one is missing, null where none is asked. */
export function levelFigures({ formulas, step }: Made<LevelsCheck>, slots: CheckContext['slots']) {
  const worth = (key: string) => formulas[key] && (formulas[key].evaluate(slots) as number)
  const says = (key: 'gravity' | 'against') => formulas[key]?.evaluate(slots) === true
  return {
    start: worth('start') as number,
    close: step.check.close == null ? null : (worth('close') as number),
    distance: step.check.distance == null ? null : (worth('distance') as number),
    level: worth('level') as number,
    gravity: says('gravity'),
    against: says('against'),
  }
}

function judgeAll(made: Made<LevelsCheck>, entries: readonly Entry[], context: CheckContext): Verdict {
  const { start, close, distance, level, ...flow } = levelFigures(made, context.slots)
  if ([start, close, distance, level].some((v) => Number.isNaN(v)))
    return plain(
      'blocked',
      `The levels cannot be worked out: ${context.missing(...Object.values(made.formulas))}.`,
    )
  // The last booking is judged; earlier ones stay to be read.
  const last = entries.at(-1)!
  let run: LevelRun
  try {
    run = runOf(bookingOf(last), start, close, distance)
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    return plain('blocked', `The booking cannot be worked through: ${error.message}`)
  }
  const { misclosure, allowed, inverts } = run
  if (misclosure !== null && allowed !== null && Math.abs(misclosure) > allowed + NEAR) {
    const sentence = `The run closes ${mm(Math.abs(misclosure))} off, at most ${mm(allowed)}: no level of it counts.`
    return {
      ...plain('rejected', sentence),
      faults: [{ entry: last.id, code: 'misclosure', sentence, verdict: 'reject' }],
    }
  }
  const faults = faultsOf(last.id, run, level, flow)
  if (faults.length > 0) return { state: 'rejected', sentence: () => faultsSay(faults), findings: [], faults }
  if (close !== null && distance === null)
    return plain('in-work', 'How far it may be off is not known: give the length of the run.')
  if (inverts.length === 0) return plain('in-work', 'No invert is booked against its design.')
  return plain('accepted', `${inverts.length} inverts within ${mm(level)} of design.`)
}

const sight = () => finite().nullable()

/** Levels of a run, through a level or off a laser's beam, and inverts against design. */
export const levels = defineCheck<LevelsCheck>({
  kind: 'levels',
  subjects: ['reach'],
  schema: {
    start: formula().required(),
    close: formula().nullable(),
    distance: formula().nullable(),
    limits: record({ level: formula() }).default(undefined),
    gravity: truth(),
    against: truth(),
  },
  answers: {
    levels: answer({
      rows: yup
        .array()
        .of(
          yup
            .object({
              backsight: sight(),
              intermediate: sight(),
              foresight: sight(),
              station: sight(),
              design: sight(),
            })
            .exact()
            .required(),
        )
        .min(2)
        .max(1000)
        .required(),
      laser: yup
        .object({ station: finite().required(), grade: finite().required() })
        .exact()
        .optional()
        .default(undefined),
      replaces: uuid(),
    }),
  },
  compile: (check, compiler) => ({
    formulas: {
      start: compiler.si(check.start, 'start', 'length'),
      close: check.close == null ? null : compiler.si(check.close, 'close', 'length'),
      distance: check.distance == null ? null : compiler.si(check.distance, 'distance', 'length'),
      level: compiler.si(check.limits?.level ?? 0.01, 'limits.level', 'length'),
      gravity: compiler.formula(check.gravity, 'gravity', { kind: 'truth' }),
      against: compiler.formula(check.against, 'against', { kind: 'truth' }),
    },
  }),
  judgeAll,
  describe: {
    rule: (check) =>
      `Inverts within ${check.limits?.level ?? '10 mm'} of design${check.gravity ? ', each lower than the one before' : ''}`,
    entry: ({ rows, laser }) => {
      const booked = rows as LevelRow[]
      const pipes = booked.filter((r) => known(r.design)).length
      return `${booked.length} ${laser ? 'readings off the beam' : 'sights'}, ${pipes} ${pipes === 1 ? 'invert' : 'inverts'}`
    },
  },
})
