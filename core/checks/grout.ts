import * as yup from 'yup'
import { GRAVITY } from '../calculators/lifting'
import { showQuantity } from '../quantity/show'
import type { Entry } from '../record/entry'
import { byTime } from '../record/order'
import { answer, finite } from '../record/payload'
import { uuid } from '../record/uuid'
import { chainsOf } from './chain'
import { confirmation, yesOrNo } from './confirm'
import { defineCheck, type CheckContext, type Made } from './define'
import { figuresOf } from './figures'
import { formula } from './schema'
import { faultsSay, plain, type Fault, type Verdict } from './verdict'

export interface GroutCheck {
  kind: 'grout'
  /** what the pipe bears from outside, compared at its invert */
  limit: string
  /** by how much the invert lies above the gauge */
  head?: string
  relativeDensity?: string
  /** share of the limit from which a caution is said */
  warn?: string
}

export interface GroutRow {
  t: number
  pressure: number
  volume: number
}

export interface GroutFigures {
  limit: number
  head: number
  relativeDensity: number
  warn: number
}

/** What a step's figures come to; NaN where one is missing. */
export const groutFigures = (made: Made<GroutCheck>, slots: CheckContext['slots']): GroutFigures =>
  figuresOf(made, slots, 'limit', 'head', 'relativeDensity', 'warn')

/** Pressure of the grout at the invert, where it presses most, Pa. */
export const atInvert = (gauge: number, { head, relativeDensity }: GroutFigures): number =>
  gauge - 1000 * relativeDensity * GRAVITY * head

const rowsOf = ({ payload }: Entry): GroutRow[] =>
  Array.isArray(payload.rows) ? (payload.rows as GroutRow[]).filter((r) => Number.isFinite(r?.pressure)) : []

const kPa = (pressure: number) => showQuantity(pressure, 'pressure', 'kPa')

function judgeAll(made: Made<GroutCheck>, entries: readonly Entry[], context: CheckContext): Verdict {
  const figures = groutFigures(made, context.slots)
  if (Object.values(figures).some(Number.isNaN))
    return plain(
      'blocked',
      `What the pipe bears cannot be worked out: ${context.missing(...Object.values(made.formulas))}.`,
    )
  const log = chainsOf(entries.filter((e) => e.kind === 'grout')).counted.map((c) => c.entry)
  if (log.length === 0) return plain('not-started', 'No grout is recorded.')
  const highest = (e: Entry) => Math.max(...rowsOf(e).map((r) => atInvert(r.pressure, figures)))
  const faults = log
    .filter((e) => highest(e) > figures.limit + 1e-9)
    .map((e): Fault => ({
      entry: e.id,
      code: 'over',
      sentence: `${kPa(highest(e))} at the invert, the pipe bears ${kPa(figures.limit)}.`,
      verdict: 'reject',
    }))
  if (faults.length > 0) return { state: 'rejected', sentence: () => faultsSay(faults), findings: [], faults }
  const most = Math.max(...log.map(highest))
  const near =
    most >= figures.warn * figures.limit
      ? ` Caution: ${kPa(most)} at the invert is close to ${kPa(figures.limit)}.`
      : ''
  const end = log.reduce((last, e) => (byTime(e, last) > 0 ? e : last))
  const full = entries.findLast((e) => e.kind === 'confirmation' && byTime(e, end) > 0)
  return full?.payload.answer === 'yes'
    ? plain('accepted', `The annulus is full.${near}`)
    : plain('in-work', `Not said to be full yet.${near}`)
}

/** Grout round a pipe in a casing: nowhere more pressure than the pipe bears. */
export const grout = defineCheck<GroutCheck>({
  kind: 'grout',
  subjects: ['reach'],
  schema: { limit: formula().required(), head: formula(), relativeDensity: formula(), warn: formula() },
  answers: {
    grout: answer({
      rows: yup
        .array()
        .of(
          yup
            .object({
              t: finite().required(),
              pressure: finite().required(),
              volume: finite().min(0).required(),
            })
            .exact()
            .required(),
        )
        .min(1)
        .max(2000)
        .required(),
      replaces: uuid(),
    }),
    confirmation,
  },
  compile: (check, compiler) => ({
    formulas: {
      limit: compiler.si(check.limit, 'limit', 'pressure'),
      head: compiler.si(check.head ?? 0, 'head', 'length'),
      relativeDensity: compiler.si(check.relativeDensity ?? 1.8, 'relativeDensity', 'ratio'),
      warn: compiler.si(check.warn ?? 0.9, 'warn', 'ratio'),
    },
  }),
  judgeAll,
  describe: {
    rule: (check) => `At the invert at most ${check.limit}`,
    entry: (payload, _check, kind) =>
      kind === 'grout'
        ? `up to ${kPa(Math.max(...(payload.rows as GroutRow[]).map((r) => r.pressure)))} at the gauge`
        : `full: ${yesOrNo(payload)}`,
  },
})
