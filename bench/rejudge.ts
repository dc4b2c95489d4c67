import { isMainThread, parentPort, Worker } from 'node:worker_threads'
import { evaluate } from 'mathjs'
import { judge } from '../core/judgement/judge'
import { standing } from '../core/judgement/standing'
import { compileProcedure } from '../core/procedure/compile'
import type { Procedure, ProcedureStep } from '../core/procedure/types'
import type { Entry } from '../core/record/entry'

/**
 * A new revision re-judges what was made under the old one: 20,000 joints of 40 measured checks in a
 * worker, against a loop written by hand for the same comparisons of the same records, and against the
 * same limits evaluated as text by the same expression library.
 */
const JOINTS = 20_000
const CHECKS = 40
const LIMITS = [
  '10 % * pipe.wall',
  'min(1.5 % * pipe.od, 3 mm)',
  'fitting.width / 2 + 20 mm',
  'pipe.od >= 400 mm ? 3 mm : 2 mm',
]

const step = (i: number): ProcedureStep => ({
  key: `check-${i}`,
  title: `Check ${i}`,
  instruction: 'Measure.',
  check: {
    kind: 'measure',
    quantity: 'length',
    unit: 'mm',
    uncertainty: '0.05 mm',
    limits: [{ of: 'each', max: LIMITS[i % LIMITS.length]! }],
  },
})
const procedure: Procedure = {
  key: 'bench',
  title: 'Bench',
  revision: 'B',
  system: 'bench',
  material: 'any',
  basis: 'Bench',
  cautions: [],
  options: [],
  tables: [],
  drawings: [],
  facts: ['pipe.od', 'pipe.wall', 'fitting.width'].map((key) => ({
    key,
    title: key,
    dimension: 'length',
    unit: 'mm',
    from: 'joint',
  })),
  stages: [{ key: 'all', title: 'All', steps: Array.from({ length: CHECKS }, (_v, i) => step(i)) }],
}

interface Made {
  facts: { 'pipe.od': number; 'pipe.wall': number; 'fitting.width': number }
  entries: Entry[]
}
function make(n: number): Made {
  const od = 0.11 + (n % 50) * 0.01
  const facts = { 'pipe.od': od, 'pipe.wall': od / 11, 'fitting.width': od * 0.9 }
  const entries = Array.from({ length: CHECKS }, (_v, i): Entry => ({
    id: `e-${n}-${String(i).padStart(2, '0')}`,
    kind: 'reading',
    step: `check-${i}`,
    payload: { values: [((n * 7 + i * 13) % 100) / 40_000] },
    person: 'lead',
    role: 'crew-lead',
    crew: null,
    instrument: null,
    recordedAt: 1_700_000_000_000 + i * 60_000,
  }))
  return { facts, entries }
}

const U = 0.00005
/** 1 where a joint is rejected, by hand: the last standing reading of each step against its limit. */
function byHand({ facts, entries }: Made): boolean {
  const last = new Map<string, Entry>()
  for (const e of standing(entries)) if (e.step && e.kind === 'reading') last.set(e.step, e)
  let rejected = false
  for (let i = 0; i < CHECKS; i++) {
    const value = (last.get(`check-${i}`)!.payload.values as number[])[0]!
    const { 'pipe.od': od, 'pipe.wall': wall, 'fitting.width': width } = facts
    const limit =
      i % 4 === 0
        ? 0.1 * wall
        : i % 4 === 1
          ? Math.min(0.015 * od, 0.003)
          : i % 4 === 2
            ? width / 2 + 0.02
            : od >= 0.4
              ? 0.003
              : 0.002
    if (value - U >= limit) rejected = true
  }
  return rejected
}
const texts = ['0.1 * wall', 'min(0.015 * od, 3 mm)', 'width / 2 + 20 mm', 'od >= 400 mm ? 3 mm : 2 mm']
/** The limits of one joint as text with units, evaluated as they stand. */
const unprepared = ({ facts }: Made) => {
  const scope = {
    od: evaluate(`${facts['pipe.od']} m`),
    wall: evaluate(`${facts['pipe.wall']} m`),
    width: evaluate(`${facts['fitting.width']} m`),
  }
  for (let i = 0; i < CHECKS; i++) evaluate(texts[i % 4]!, { ...scope })
}

function timed<T>(run: () => T): [result: T, seconds: number] {
  const start = performance.now()
  const result = run()
  return [result, (performance.now() - start) / 1000]
}

if (isMainThread) {
  new Worker(
    new URL(
      import.meta.url.startsWith('file:') && process.argv[1]!.includes('bundled')
        ? `file://${process.cwd()}/node_modules/.cache/vet-line-bench.mjs`
        : import.meta.url,
    ),
  )
    .on('message', (lines: string[]) => console.log(lines.join('\n')))
    .on('error', (e) => {
      console.error(e)
      process.exitCode = 1
    })
} else {
  const compiled = compileProcedure(procedure)
  const made = Array.from({ length: JOINTS }, (_v, n) => make(n))
  const judgeAll = () =>
    made.filter(
      (m) => judge(compiled, m.facts, m.entries, 1_800_000_000_000, { brief: true }).state === 'rejected',
    ).length
  const handAll = () => made.filter(byHand).length
  judgeAll()
  handAll()
  let [judgedTime, handTime] = [0, 0]
  for (let round = 0; round < 3; round++) {
    const [hand, h] = timed(handAll)
    const [judged, j] = timed(judgeAll)
    if (hand !== judged || hand === 0 || hand === JOINTS)
      throw new Error(`The two do not agree: ${hand} and ${judged}.`)
    judgedTime += j / 3
    handTime += h / 3
  }
  const sample = made.slice(0, 200)
  const [, textTime] = timed(() => sample.forEach(unprepared))
  const [, limitTime] = timed(() =>
    made.forEach((m) => {
      const slots = compiled.slots(m.facts)
      for (const s of compiled.steps) s.limits[0]!.max!.evaluate(slots)
    }),
  )
  const textAll = (textTime / sample.length) * JOINTS
  parentPort!.postMessage([
    `${JOINTS} joints of ${CHECKS} checks judged in a worker: ${judgedTime.toFixed(2)} s; ` +
      `by hand ${handTime.toFixed(2)} s: ${(judgedTime / handTime).toFixed(1)} times (at ` +
      `most 10)`,
    `their limits as text with units: ${textAll.toFixed(1)} s (from ${sample.length}); ` +
      `compiled ${limitTime.toFixed(2)} s: ${(textAll / limitTime).toFixed(0)} times faster ` +
      `(at least 20); the whole judgement ${(textAll / judgedTime).toFixed(0)} times faster`,
  ])
}
