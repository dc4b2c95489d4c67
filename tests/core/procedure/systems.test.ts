import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import type { Judgement, JudgeOptions } from '../../../core/judgement/types'
import { readFacts } from '../../../core/procedure/facts'
import { loadProcedure, writeProcedure } from '../../../core/procedure/load'
import { readQuantity } from '../../../core/quantity/read'
import { plainKey } from '../../../core/procedure/ends'
import {
  atEnds,
  loadSystem,
  procedureSource,
  rejectedAt,
  replaceAnswers,
  sampleEntries,
  systemKeys,
  type RejectedSample,
  type SampleAnswer,
  type System,
} from '../../../demo/system-records'
import { entry, T0 } from '../support'

const MONTH = 30 * 86_400_000

/** Judges answers a month later, when every clock has run. */
function judged(
  system: System,
  answers: readonly SampleAnswer[],
  changes: { facts?: Record<string, unknown>; schools?: Record<string, string> } = {},
): Judgement {
  const { compiled, sample } = system
  const facts = readFacts(compiled.procedure, { ...sample.facts, ...changes.facts })
  const entries = sampleEntries(compiled, answers).map((e) =>
    entry(
      e.step,
      e.kind,
      e.payload,
      e.minute,
      e.by === 'inspector' ? { person: 'ines', role: 'inspector' } : {},
    ),
  )
  const options: JudgeOptions = { schools: changes.schools ?? {} }
  return judge(compiled, facts, entries, T0 + MONTH, options)
}
const rejected = (system: System, r: RejectedSample) => {
  const answered =
    r.answer !== undefined ||
    r.choice !== undefined ||
    r.values !== undefined ||
    r.count !== undefined ||
    r.lot !== undefined ||
    r.afterStart !== undefined ||
    r.refusal !== undefined
  const until = (answers: SampleAnswer[]) =>
    r.refusal === undefined
      ? answers
      : answers.slice(0, answers.findIndex((a) => a.step === rejectedAt(system.compiled, r)) + 1)
  return judged(
    system,
    until(
      replaceAnswers(system.compiled, system.sample.conforming, [
        ...(answered ? [{ ...r, step: rejectedAt(system.compiled, r) }] : []),
        ...(r.with ?? []),
      ]),
    ),
    r,
  )
}

const systems = systemKeys.map(loadSystem)

it('ships a procedure for each of the 21 joint systems', () => {
  expect(systems.map((s) => s.key)).toHaveLength(21)
  for (const { key, compiled } of systems) expect(compiled.procedure.system).toBe(key)
})

describe.each(systems.map((s) => [s.key, s] as const))('%s', (_key, system) => {
  const { compiled, sample } = system

  it('a conforming record is accepted, every step of it', () => {
    const result = judged(system, sample.conforming)
    expect(
      result.steps
        .filter((s) => s.state !== 'accepted' && s.state !== 'not-applicable')
        .map((s) => [s.key, s.state, s.sentence]),
    ).toEqual([])
    expect(result.state).toBe('accepted')
    expect(result.drafts).toEqual([])
  })

  it.each(Object.entries(sample.marks))('the mark %s is %s', (step, want) => {
    const value = judged(system, sample.conforming).steps.find((s) => plainKey(s.key) === step)!.value
    expect(value).toBeCloseTo(readQuantity(want, 'length'), 7)
  })

  it.each(
    sample.rejecting.map(
      (r) =>
        [
          r.step,
          JSON.stringify(
            r.values ?? r.choice ?? r.count ?? r.answer ?? r.afterStart ?? r.lot ?? r.facts ?? '',
          ),
          r,
        ] as const,
    ),
  )('%s is rejected for %s', (step, _what, r) => {
    const { steps } = rejected(system, r)
    const at = steps.find((s) => s.key === rejectedAt(compiled, r))!
    expect([at.state, at.sentence], step).toEqual(['rejected', expect.stringContaining(r.says)])
    // What is wrong at one end says nothing of the other; facts are those of both.
    const other = steps.find((s) => plainKey(s.key) === plainKey(at.key) && s.end !== at.end)
    if (other && !r.facts && !r.schools && !r.with) expect(other.state).not.toBe('rejected')
  })

  it('has a rejecting record for every criterion', () => {
    const results = sample.rejecting.map((r) => ({
      r,
      at: rejected(system, r).steps.find((s) => s.key === rejectedAt(compiled, r))!,
    }))
    const missing: string[] = []
    for (const { step, limits } of compiled.steps) {
      const here = results.filter(({ r }) => plainKey(r.step) === plainKey(step.key))
      const check = step.check
      if (check.kind === 'choice')
        for (const c of check.choices)
          if (c.conforms !== true && !here.some(({ r }) => r.choice === c.key))
            missing.push(`${step.key}: ${c.key}`)
      if (check.kind === 'clock' && !check.action) continue
      if (check.kind !== 'choice' && here.length === 0) missing.push(step.key)
      limits.forEach(({ min, max }, i) => {
        for (const [side, formula] of [
          ['min', min],
          ['max', max],
        ] as const) {
          const hit = here.some(
            ({ at }) =>
              at.findings[i]?.verdict === 'reject' &&
              (side === 'min'
                ? at.findings[i]!.value < at.findings[i]!.min!
                : at.findings[i]!.value > at.findings[i]!.max!),
          )
          if (formula && !hit) missing.push(`${step.key}: ${side} of ${i}`)
        }
      })
    }
    expect(missing).toEqual([])
  })

  it('has a clock that holds the pressure test back, or says that it has none; after its time a conforming joint is ready', () => {
    const gated = compiled.steps.some(
      ({ step: { check } }) => check.kind === 'clock' && check.gate !== undefined,
    )
    expect(compiled.procedure.gate === 'none').toBe(!gated)
    expect(judged(system, sample.conforming).test).toMatchObject({ ready: true, gated })
    const before = atEnds(compiled, sample.conforming).filter(
      (a) => !compiled.steps[compiled.stepIndex.get(a.step)!]!.afterTest,
    )
    expect(judged(system, before).test.ready).toBe(true)
    expect(judged(system, before.slice(1)).test.ready).toBe(false)
  })

  it('says what to do on failure at every step that can fail', () => {
    const silent = compiled.steps.filter(
      ({ step }) =>
        !step.onFailure &&
        !(step.check.kind === 'clock' && !step.check.action) &&
        step.check.kind !== 'calculated',
    )
    expect(silent.map((s) => s.step.key)).toEqual([])
  })

  it('reads and writes without a change, as YAML and as JSON', () => {
    const { procedure } = loadProcedure(procedureSource(system.key))
    expect(loadProcedure(writeProcedure(procedure)).procedure).toEqual(procedure)
    expect(loadProcedure(JSON.stringify(procedure)).procedure).toEqual(procedure)
  })
})
