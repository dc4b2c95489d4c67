import { describe, expect, it } from 'vitest'
import { beforeTheTest } from '../../../core/judgement/after-test'
import { judge } from '../../../core/judgement/judge'
import type { Entry } from '../../../core/record/entry'
import { loadSystem, sampleEntries, atEnds } from '../../../demo/system-records'

/** What comes after the pressure test waits until one of its section is accepted. */
const { compiled, facts, sample } = loadSystem('abs-preinsulated-nipple')
const start = Date.UTC(2026, 4, 4, 6)
const MINUTE = 60_000
const entries = sampleEntries(compiled, atEnds(compiled, sample.conforming)).map((e, i): Entry => ({
  ...{ id: `e${i}`, kind: e.kind, step: e.step, payload: e.payload, person: e.by, crew: null },
  ...{ role: e.by === 'lead' ? 'crew-lead' : 'inspector', instrument: null },
  recordedAt: start + e.minute * MINUTE,
}))
const closing = entries.filter((e) => e.step === 'gaps-open').map((e) => e.recordedAt)
const now = start + 40 * 24 * 60 * MINUTE
const at = (tested: number | null | undefined, record = entries) =>
  judge(compiled, facts, record, now, tested === undefined ? {} : { tested })
const gap = (tested: number | null | undefined, record = entries) =>
  at(tested, record).steps.find((s) => s.key === 'gaps-open')!
const untouched = entries.slice(
  0,
  entries.findIndex((e) => e.step === 'gaps-open'),
)

describe('a gap that stays open until the test', () => {
  it('is held back by nothing where no test is planned', () => {
    expect(gap(undefined).state).toBe('accepted')
    expect(gap(undefined, untouched).state).not.toBe('blocked')
  })
  it('waits while a test is planned and none is accepted', () => {
    expect(gap(null, untouched)).toMatchObject({
      state: 'blocked',
      sentence: 'First: the pressure test of this section is accepted.',
    })
    expect(at(null).state).not.toBe('accepted')
  })
  it('is closed after it', () => expect(gap(Math.min(...closing) - MINUTE).state).toBe('accepted'))
  it('and was released before it is released again: that release does not count', () => {
    for (const tested of [null, Math.max(...closing) + MINUTE])
      expect(gap(tested)).toMatchObject({
        ...{ state: 'held', release: { state: 'none' } },
        sentence: expect.stringContaining('before the pressure test of this section was accepted'),
      })
  })
  it('that somebody waived waits for nothing', () => {
    const waived = entries.map((e) =>
      e.step === 'gaps-open' && e.kind === 'release'
        ? { ...e, kind: 'waiver' as const, payload: { reason: 'Tested by another method.' } }
        : e,
    )
    expect(gap(null, waived).state).toBe('accepted')
  })
  it('filled or drained before the test does not count, and is a fault once it was accepted later', () => {
    const filled = (tested: number | null) => at(tested).steps.find((s) => s.key === 'filled')!
    expect(filled(Math.min(...closing) - MINUTE).state).toBe('accepted')
    expect(filled(null).state).not.toBe('accepted')
    expect(filled(now).state).not.toBe('accepted')
  })
  it('asks for nobody once the test is accepted and nothing is closed yet', () =>
    expect(gap(start, untouched).state).not.toBe('blocked'))
  it('leaves every step before the test as it is', () => {
    const states = (tested: number | null | undefined) =>
      at(tested)
        .steps.filter((s) => !compiled.steps[compiled.stepIndex.get(s.key)!]!.afterTest)
        .map((s) => s.state)
    expect(states(null)).toEqual(states(undefined))
  })
})

describe('what comes after the pressure test', () => {
  const done = { recordedAt: 50 }
  it.each([
    ['where no test is planned, is as it is', null, undefined, null],
    ['and was done, is as it is too', done, undefined, null],
    ['waits while none is accepted', null, null, 'blocked'],
    ['does not count before it', done, null, 'blocked'],
    ['may begin once it is accepted', null, 40, null],
    ['counts from that moment on', done, 50, null],
    ['and hides nothing when it came later', done, 40, null],
    ['is rejected when it came before', done, 51, 'rejected'],
  ] as const)('%s', (_what, last, tested, state) =>
    expect(beforeTheTest(last, tested)?.state ?? null).toBe(state),
  )
  it('says which of these it is', () => {
    expect(beforeTheTest(null, null)!.sentence).toMatch(/^First: /)
    expect(beforeTheTest(done, null)!.sentence).toMatch(/does not count before it/)
    expect(beforeTheTest(done, 51)!.sentence).toMatch(/^Recorded before/)
  })
})
