import * as yup from 'yup'
import { guardBandVerdict } from '../calculators/guard-band'
import { showNumber, showQuantity } from '../quantity/show'
import type { Entry } from '../record/entry'
import { answer, finite } from '../record/payload'
import { uuid } from '../record/uuid'
import { chainsOf, type Chains, type InPlace } from './chain'
import { defineCheck, type CheckContext, type Made } from './define'
import { sides, type Side } from './lifts'
import { figuresOf } from './figures'
import { formula } from './schema'
import { faultsSay, plain, type Fault, type Verdict } from './verdict'

export interface DensityCheck {
  kind: 'density'
  minCompaction?: string
  uncertainty?: string
  /** how many accepted tests are due */
  due?: string
}

export interface DensityPayload {
  side: Side
  station: number
  level?: number
  wetDensity: number
  moisture: number
  maximum: number
  method: 'nuclear' | 'sand'
  retestOf?: string
}

/** One test as it is judged. */
export interface DensityTest {
  entry: string
  at: number
  payload: DensityPayload
  dry: number
  /** share of the maximum */
  compaction: number
  verdict: 'accept' | 'reject' | 'too-close'
  /** a later test beside it is accepted */
  cleared: boolean
}

/** A retest stands for the place that failed: so near must it be, m. */
const BESIDE = 2
const percent = (ratio: number) => `${showNumber(ratio * 100)} %`

const isTest = ({ entry: { payload: p } }: InPlace): boolean =>
  sides.includes(p.side as Side) &&
  [p.wetDensity, p.moisture, p.maximum].every((v) => Number.isFinite(v)) &&
  (p.maximum as number) > 0

interface DensityLimits {
  minCompaction: number
  uncertainty: number
}

/** Judges each test, and which failed ones a later accepted test beside them has cleared. */
export function densityTests(
  { counted, standsFor }: Chains,
  limits: DensityLimits,
  rule: CheckContext['rule'],
): DensityTest[] {
  const tests = counted.filter(isTest).map(({ entry, place }): DensityTest => {
    const payload = entry.payload as unknown as DensityPayload
    const dry = payload.wetDensity / (1 + payload.moisture)
    const compaction = dry / payload.maximum
    const { verdict } = guardBandVerdict(compaction, limits.minCompaction, null, limits.uncertainty, rule)
    return { entry: entry.id, at: place.recordedAt, payload, dry, compaction, verdict, cleared: false }
  })
  const order = new Map(tests.map((t, i) => [t.entry, i]))
  const named = (t: DensityTest) => {
    const stands = t.payload.retestOf === undefined ? undefined : standsFor(t.payload.retestOf)
    const at = stands && order.get(stands.entry.id)
    return at === undefined ? undefined : tests[at]
  }
  tests.forEach((test, i) => {
    const failed = named(test)
    if (test.verdict !== 'accept' || !failed || order.get(failed.entry)! >= i) return
    const beside =
      failed.payload.side === test.payload.side &&
      Math.abs(failed.payload.station - test.payload.station) <= BESIDE + 1e-9
    if (!beside) return
    for (let t: DensityTest | undefined = failed; t && !t.cleared; t = named(t)) t.cleared = true
  })
  return tests
}

const faultOf = (t: DensityTest, minCompaction: number): Fault[] => {
  const found = `${percent(t.compaction)} of the maximum, at least ${percent(minCompaction)}`
  if (t.verdict === 'reject')
    return [
      {
        entry: t.entry,
        code: 'low',
        sentence: `${found}: compact again and test beside it.`,
        verdict: 'reject',
      },
    ]
  return t.verdict === 'too-close'
    ? [
        {
          entry: t.entry,
          code: 'too-close',
          sentence: `${found}: too close to call, test again beside it.`,
          verdict: 'too-close',
        },
      ]
    : []
}

const worth = (made: Made<DensityCheck>, { slots }: CheckContext) =>
  figuresOf(made, slots, 'minCompaction', 'uncertainty', 'due')

const blocked = (made: Made<DensityCheck>, { missing }: CheckContext) =>
  plain('blocked', `What is due cannot be worked out: ${missing(...Object.values(made.formulas))}.`)

function judgeAll(made: Made<DensityCheck>, entries: readonly Entry[], context: CheckContext): Verdict {
  const limits = worth(made, context)
  if (Object.values(limits).some(Number.isNaN)) return blocked(made, context)
  const tests = densityTests(chainsOf(entries), limits, context.rule)
  const faults = tests.flatMap((t) => faultOf(t, limits.minCompaction))
  const open = (verdict: DensityTest['verdict']) => tests.filter((t) => t.verdict === verdict && !t.cleared)
  const standing = [...open('reject'), ...open('too-close')]
  if (standing.length > 0) {
    const of = faults.filter((f) => standing.some((t) => t.entry === f.entry))
    return {
      state: open('reject').length > 0 ? 'rejected' : 'too-close',
      sentence: () => faultsSay(of),
      findings: [],
      faults,
    }
  }
  const accepted = tests.filter((t) => t.verdict === 'accept').length
  const done = `${accepted} of ${showNumber(limits.due)} tests accepted.`
  if (accepted >= limits.due - 1e-9) return { ...plain('accepted', done), faults }
  return { ...plain(tests.length > 0 ? 'in-work' : 'not-started', done), faults }
}

/** Dry density of the fill against the maximum of its own material. */
export const density = defineCheck<DensityCheck>({
  kind: 'density',
  subjects: ['reach'],
  schema: { minCompaction: formula(), uncertainty: formula(), due: formula() },
  answers: {
    density: answer({
      side: yup.string().oneOf(sides).required(),
      station: finite().required(),
      level: finite(),
      wetDensity: finite().moreThan(0).required(),
      moisture: finite().min(0).required(),
      maximum: finite().moreThan(0).required(),
      method: yup.string().oneOf(['nuclear', 'sand']).required(),
      retestOf: uuid(),
      replaces: uuid(),
    }),
  },
  compile: (check, compiler) => ({
    formulas: {
      minCompaction: compiler.si(check.minCompaction ?? 0.9, 'minCompaction', 'ratio'),
      uncertainty: compiler.si(check.uncertainty ?? 0.005, 'uncertainty', 'ratio'),
      due: compiler.si(check.due ?? 1, 'due', 'ratio'),
    },
  }),
  judgeAll,
  unanswered(made, context) {
    const limits = worth(made, context)
    if (Object.values(limits).some(Number.isNaN)) return blocked(made, context)
    return limits.due <= 0
      ? plain('accepted', 'No test is due.')
      : plain('not-started', `${showNumber(limits.due)} ${limits.due === 1 ? 'test is' : 'tests are'} due.`)
  },
  figures(made, entries, slots): Record<string, number> {
    const limits = figuresOf(made, slots, 'minCompaction', 'uncertainty')
    const stand = densityTests(chainsOf(entries), limits, 'guarded').filter((t) => !t.cleared)
    return stand.length === 0 ? {} : { compaction: Math.min(...stand.map((t) => t.compaction)) }
  },
  describe: {
    rule: (check) => `At least ${check.minCompaction ?? '90 %'} of the maximum dry density`,
    entry: ({ side, station, wetDensity, moisture, maximum, retestOf }) =>
      [
        `${percent((wetDensity as number) / (1 + (moisture as number)) / (maximum as number))} of the maximum`,
        `${side === 'both' ? 'both sides' : String(side)} at ${showQuantity(station as number, 'length', 'm')}`,
        ...(retestOf ? ['tested again'] : []),
      ].join(', '),
  },
})
