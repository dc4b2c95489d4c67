import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeAhead, stateAt } from '../../../core/judgement/ahead'
import { judge } from '../../../core/judgement/judge'
import type { Judgement } from '../../../core/judgement/types'
import { stepStates } from '../../../core/checks/verdict'
import type { CompiledProcedure } from '../../../core/procedure/compile'
import type { Entry, EntryKind } from '../../../core/record/entry'
import { loadSystem, sampleEntries, systemKeys } from '../../../demo/system-records'
import { entry, T0 } from '../support'

/** What holds of every shipped system, for whatever is recorded at its joints. */
const kinds: EntryKind[] = [
  'reading',
  'confirmation',
  'choice',
  'count',
  'clock',
  'lot',
  'request',
  'release',
  'refusal',
  'waiver',
  'decision',
  'remark',
  'photo',
  'ncr',
]
const payload = (compiled: CompiledProcedure) => {
  const choices = compiled.steps.flatMap(({ step: { check } }) =>
    check.kind === 'choice' ? check.choices.map((c) => c.key) : [],
  )
  return fc.record({
    answer: fc.constantFrom('yes', 'no', 'perhaps'),
    values: fc.array(
      fc.oneof(fc.double({ min: -1, max: 400, noNaN: true }), fc.constantFrom(0.001, 0.01, 0.1, 20)),
      { maxLength: 8 },
    ),
    choice: fc.constantFrom('no such choice', ...choices),
    count: fc.nat(40),
    lot: fc.constantFrom('L1', 'L2'),
    made: fc.constantFrom('2025-01-01', '2026-03-01'),
    expires: fc.constantFrom('2026-03-08', '2027-01-01'),
    verdict: fc.constantFrom('accept', 'reject'),
    reason: fc.string({ maxLength: 6 }),
    event: fc.constantFrom('raised', 'closed'),
    number: fc.constant('NCR-1'),
    disposition: fc.constantFrom('rework', 'use-as-is', 'scrap'),
  })
}
const record = (compiled: CompiledProcedure): fc.Arbitrary<Entry[]> =>
  fc
    .array(
      fc.record({
        step: fc.constantFrom(...compiled.steps.map((s) => s.step.key)),
        kind: fc.constantFrom(...kinds),
        payload: payload(compiled),
        minute: fc.integer({ min: 0, max: 3000 }),
        person: fc.constantFrom('tam', 'ines'),
      }),
      { maxLength: 30 },
    )
    .map((list) => list.map((e) => entry(e.step, e.kind, e.payload, e.minute, { person: e.person })))
const moment = fc.integer({ min: 0, max: 6000 }).map((m) => T0 + m * 60_000)
const DONE = new Set(['accepted', 'not-applicable'])

const holds = (compiled: CompiledProcedure, r: Judgement) => {
  expect(r.steps.map((s) => s.key)).toEqual(compiled.steps.map((s) => s.step.key))
  for (const s of r.steps) {
    expect(stepStates).toContain(s.state)
    if (s.state === 'rejected') expect(s.sentence, s.key).not.toBe('')
    for (const f of s.findings)
      expect([f.value, f.uncertainty, f.margin].every((x) => !Number.isNaN(x))).toBe(true)
  }
  const applicable = r.steps.filter((s) => s.state !== 'not-applicable')
  expect(r.applicable).toBe(applicable.length)
  expect(r.done).toBeLessThanOrEqual(r.applicable)
  if (r.state === 'accepted')
    expect(applicable.every((s) => s.state === 'accepted' || s.ncr?.disposition === 'use-as-is')).toBe(true)
  if (r.state === 'not-started') expect(applicable.some((s) => s.state === 'accepted' && s.entry)).toBe(false)
  if (r.next !== null) expect(DONE.has(r.steps.find((s) => s.key === r.next)!.state)).toBe(false)
  for (const d of r.drafts)
    expect(
      r.steps.some((s) => s.key === d.step && (s.state === 'rejected' || s.state === 'differs')),
      d.step,
    ).toBe(true)
}

describe.each(systemKeys)('%s', (key) => {
  const { compiled, facts, sample } = loadSystem(key)
  const conforming = sampleEntries(compiled, sample.conforming).map((e) =>
    entry(
      e.step,
      e.kind,
      e.payload,
      e.minute,
      e.by === 'inspector' ? { person: 'ines', role: 'inspector' } : {},
    ),
  )

  it('gives a whole judgement, whatever is recorded', () =>
    fc.assert(
      fc.property(record(compiled), moment, (entries, now) =>
        holds(compiled, judge(compiled, facts, entries, now)),
      ),
      { numRuns: 40 },
    ))
  it('judges the same record the same, in brief as in full', () => {
    fc.assert(
      fc.property(record(compiled), moment, (entries, now) => {
        const [full, brief] = [
          judge(compiled, facts, entries, now),
          judge(compiled, facts, entries, now, { brief: true }),
        ]
        expect(brief.state).toBe(full.state)
        expect(brief.steps.map((s) => s.state)).toEqual(full.steps.map((s) => s.state))
      }),
      { numRuns: 30 },
    )
  })
  it('what is stored says when time alone changes the state, and into what', () => {
    fc.assert(
      fc.property(record(compiled), moment, moment, (entries, now, later) => {
        fc.pre(later > now)
        const { judgement, changes } = judgeAhead(compiled, facts, entries, now)
        expect(stateAt({ state: judgement.state, changes }, later)).toBe(
          judge(compiled, facts, entries, later).state,
        )
      }),
      { numRuns: 30 },
    )
  })
  it('before anything is recorded every limit is worked out, or waits for an earlier reading', () => {
    for (const [i, s] of judge(compiled, facts, [], T0).steps.entries()) {
      if (s.state === 'not-applicable') continue
      for (const l of s.limits)
        if (l.min === null && l.max === null)
          expect(compiled.steps[i]!.reads.length, `${s.key}: ${l.title}`).toBeGreaterThan(0)
    }
  })
  it('one step undone leaves the joint unaccepted, whichever it is', () => {
    const whole = judge(compiled, facts, conforming, T0 + 400 * 86_400_000)
    expect(whole.state).toBe('accepted')
    for (const s of whole.steps.filter((x) => x.entry !== null)) {
      const without = judge(
        compiled,
        facts,
        conforming.filter((e) => e.step !== s.key),
        T0 + 400 * 86_400_000,
      )
      expect(without.state, s.key).not.toBe('accepted')
    }
  })
  it('one no leaves it rejected at that step, with words for what to do', () => {
    for (const { step } of compiled.steps) {
      if (step.check.kind !== 'confirm' || step.point === 'H' || !conforming.some((e) => e.step === step.key))
        continue
      const r = judge(
        compiled,
        facts,
        conforming.map((e) =>
          e.step === step.key && e.kind === 'confirmation' ? { ...e, payload: { answer: 'no' } } : e,
        ),
        T0 + 400 * 86_400_000,
      )
      expect(r.steps.find((s) => s.key === step.key)!.state, step.key).toBe('rejected')
      expect(r.state).toBe('rejected')
      expect(step.onFailure?.words, step.key).toBeTruthy()
    }
  })
})
