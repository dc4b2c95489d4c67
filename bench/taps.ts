import type { CompiledStep } from '../core/procedure/compile'
import { standingAnswers } from '../core/judgement/once'
import { endOf } from '../core/procedure/ends'
import { sameAtOtherEnd } from '../core/procedure/together'
import { atEnds, loadSystem, sampleEntries, systemKeys, type SampleAnswer } from '../demo/system-records'
import type { Entry } from '../core/record/entry'

/**
 * What a conforming joint costs to record, for each shipped system: as it was when every step was asked at
 * every joint and end, and now, at the first joint of a shift and at the tenth.
 *
 * A question is one tap. Readings are typed on the keypad, a tap to go on after each and to record; their
 * instrument is picked once a shift. A lot is typed and recorded; at the tenth joint it is the tin of the
 * ninth, with one tap. Facts that nothing else gives are typed when a joint is opened, or taken over from
 * the joint before with one tap. A question of both ends that is answered by looking is answered for both
 * at once, after one tap that says so. What a register knows – here that the installer is qualified and that
 * the instruments are calibrated – is not asked.
 *
 * The last column is the tenth joint with instruments that type as a keyboard does, reading and Enter: their
 * steps cost no tap and no typing (`tests/browser/instrument.spec.ts`).
 */
interface Cost {
  taps: number
  typed: number
  /** steps at which somebody has to do something */
  steps: number
}
const none: Cost = { taps: 0, typed: 0, steps: 0 }
const plus = (a: Cost, b: Cost): Cost => ({
  taps: a.taps + b.taps,
  typed: a.typed + b.typed,
  steps: a.steps + b.steps,
})
const digits = (text: string) => text.replace(/[^\d.,/-]/g, '').length

function costOf({ step }: CompiledStep, answer: SampleAnswer, first: boolean, keyed = false): Cost {
  const types =
    keyed && 'instrument' in step.check && step.check.instrument && step.check.instrument !== 'eye'
  if (types) return none
  const picked = first && 'instrument' in step.check && step.check.instrument ? 1 : 0
  if (answer.values)
    return {
      taps: answer.values.length + picked,
      typed: answer.values.reduce((n, v) => n + digits(v), 0),
      steps: 1,
    }
  if (answer.count !== undefined) return { taps: 1, typed: String(answer.count).length, steps: 1 }
  if (answer.lot && !first) return { taps: 1, typed: 0, steps: 1 }
  if (answer.lot)
    return { taps: 1, typed: Object.values(answer.lot).reduce((n, v) => n + v.length, 0), steps: 1 }
  return { taps: answer.release ? 2 : 1, typed: 0, steps: 1 }
}

const PERSON = 'lead'
const T0 = Date.UTC(2026, 2, 9, 7)
const rows = systemKeys.map((key) => {
  const system = loadSystem(key)
  const { compiled, sample, facts } = system
  const answers = atEnds(compiled, sample.conforming)
  const entries = sampleEntries(compiled, sample.conforming).map((e, i): Entry => ({
    ...e,
    id: `01900000-0000-7000-8000-${String(i).padStart(12, '0')}`,
    person: PERSON,
    role: e.by === 'lead' ? 'crew-lead' : 'inspector',
    crew: null,
    instrument: null,
    recordedAt: T0 + e.minute * 60_000,
  }))
  const before = [{ subject: '01900000-0000-7000-8000-00000000ffff', name: 'J-1', entries }]
  const stands = new Set(
    standingAnswers(compiled, facts, PERSON, T0 + 9 * 3_600_000, before).map((a) => a.step),
  )
  const asked = answers.filter((a) => {
    const { check } = compiled.steps[compiled.stepIndex.get(a.step)!]!.step
    return check.kind !== 'calculated'
  })
  const index = (key: string) => compiled.stepIndex.get(key)!
  const sum = (of: SampleAnswer[], first: boolean, keyed = false) =>
    of.map((a) => costOf(compiled.steps[index(a.step)]!, a, first, keyed)).reduce(plus, none)
  const known = (a: SampleAnswer) => compiled.steps[index(a.step)]!.step.check.kind === 'gathered'
  /** what is answered together with the same question at the upstream end */
  const together = (a: SampleAnswer) =>
    endOf(a.step) === 'downstream' && sameAtOtherEnd(compiled, a.step) !== null
  const atOnce = asked.filter((a) => !together(a))
  const saysBoth: Cost = { ...none, taps: atOnce.length < asked.length ? 1 : 0 }
  const given = Object.values(sample.facts)
  const typing: Cost = {
    taps: given.length,
    typed: given.reduce<number>((n, v) => n + (typeof v === 'string' ? digits(v) : 0), 0),
    steps: 0,
  }
  const firstAsked = atOnce.filter((a) => !known(a))
  const tenth = firstAsked.filter((a) => !stands.has(a.step))
  return {
    key,
    before: plus(sum(asked, true), typing),
    first: [sum(firstAsked, true), typing, saysBoth].reduce(plus),
    tenth: [sum(tenth, false), { ...none, taps: 1 }, saysBoth].reduce(plus),
    typing: [sum(tenth, false, true), { ...none, taps: 1 }, saysBoth].reduce(plus),
  }
})

const share = (a: number, b: number) => `${Math.round((100 * a) / b)} %`
const cell = (text: string | number) => String(text).padStart(7)
const columns = ['before', 'first', 'tenth', 'typing'] as const
console.log(
  `${''.padEnd(28)}${columns.map((w) => w.padStart(14)).join('')}   tenth ÷ before   typing ÷ before\n` +
    `${'system'.padEnd(28)}${'   taps  typed'.repeat(columns.length)}${'   taps  steps'.repeat(2)}`,
)
const shares = (a: Cost, b: Cost) => cell(share(a.taps, b.taps)) + cell(share(a.steps, b.steps))
for (const row of rows)
  console.log(
    row.key.padEnd(28) +
      columns.map((c) => cell(row[c].taps) + cell(row[c].typed)).join('') +
      shares(row.tenth, row.before) +
      shares(row.typing, row.before),
  )
const over = (of: 'tenth' | 'typing', by: 'taps' | 'steps') => {
  const sum = (c: keyof Omit<(typeof rows)[number], 'key'>) => rows.reduce((n, r) => n + r[c][by], 0)
  const good = rows.filter((r) => r[of][by] <= 0.6 * r.before[by]).length
  return `${by} ${share(sum(of), sum('before'))}, at most 60 % in ${good} of ${rows.length}`
}
for (const of of ['tenth', 'typing'] as const) console.log(`${of}: ${over(of, 'taps')}; ${over(of, 'steps')}`)
