import { describe, expect, it } from 'vitest'
import type { Entry } from '../../../core/record/entry'
import { entry } from '../support'
import { lift, reachOf } from './reach'

const reach = (more: object = {}) => reachOf({ density: { kind: 'density', ...more } })
const test = (compaction: number, more: object = {}, minute?: number) =>
  entry(
    'density',
    'density',
    {
      side: 'left',
      station: 10,
      wetDensity: 1900 * compaction * 1.08,
      moisture: 0.08,
      maximum: 1900,
      method: 'nuclear',
      ...more,
    },
    minute,
  )
const judged = (entries: readonly Entry[], more: object = {}) => reach(more).judge(entries).steps[0]!

describe('one test', () => {
  it.each([
    [0.92, 'accepted', []],
    [0.906, 'accepted', []],
    [0.904, 'too-close', ['too-close']],
    [0.9, 'too-close', ['too-close']],
    [0.896, 'too-close', ['too-close']],
    [0.89, 'rejected', ['low']],
  ])('%f of the maximum is %s', (compaction, state, codes) => {
    const found = judged([test(compaction)])
    expect([found.state, found.faults.map((f) => f.code)]).toEqual([state, codes])
  })
  it('by the simple rule the limit alone decides', () =>
    expect(reach().judge([test(0.901)], { rule: 'simple' }).steps[0]!.state).toBe('accepted'))
  it('95 % where the procedure asks for it', () =>
    expect(judged([test(0.93)], { minCompaction: '95 %' }).state).toBe('rejected'))
  it('against a maximum of nothing counts as nothing', () =>
    expect(judged([test(0.95, { maximum: 0 })]).state).toBe('not-started'))
})

describe('a failed test stands', () => {
  const failed = test(0.8, {}, 1)
  const retest = (more: object = {}, compaction = 0.95) =>
    test(compaction, { retestOf: failed.id, ...more }, 2)
  it.each<[string, Entry, string]>([
    ['until one beside it is accepted', retest({ station: 11.5 }), 'accepted'],
    ['when the next is of another place', test(0.95, { station: 40 }, 2), 'rejected'],
    ['when the next is 3 m along', retest({ station: 13 }), 'rejected'],
    ['when the next is on the other side', retest({ side: 'right' }), 'rejected'],
    ['when the next fails too', retest({}, 0.7), 'rejected'],
    ['when the next is too close', retest({}, 0.9), 'rejected'],
  ])('%s', (_what, next, want) => expect(judged([failed, next]).state).toBe(want))
  it('and what a cleared test names is cleared in turn', () => {
    const again = retest({}, 0.85)
    const last = test(0.95, { retestOf: again.id }, 3)
    expect(judged([failed, again, last]).state).toBe('accepted')
  })
  it('a name of a replaced test means its replacement', () => {
    const typed = test(0.81, { replaces: failed.id }, 1.5)
    expect(judged([failed, typed, retest()]).state).toBe('accepted')
  })
  it('a retest before the test it names clears nothing', () => {
    const early = { ...retest(), recordedAt: failed.recordedAt - 60_000 }
    expect(judged([early, failed]).state).toBe('rejected')
  })
  it('tests that name each other end', () => {
    const a = test(0.8, {}, 1)
    const b = test(0.8, { retestOf: a.id }, 2)
    const loop = { ...a, payload: { ...a.payload, retestOf: b.id } }
    expect(judged([loop, b]).state).toBe('rejected')
  })
})

describe('how many are due', () => {
  it.each([
    [0, 0, 'accepted'],
    [0, 1, 'not-started'],
    [1, 2, 'in-work'],
    [2, 2, 'accepted'],
  ])('%i accepted of %i is %s', (done, due, want) =>
    expect(
      judged(
        Array.from({ length: done }, () => test(0.95)),
        { due },
      ).state,
    ).toBe(want),
  )
  it('may follow from the fill', () => {
    const filled = reachOf({
      lifts: { kind: 'lifts', od: 'pipe.od' },
      density: { kind: 'density', due: 'ceil(lift("low") / 0.3 m)' },
    })
    const state = (...entries: Entry[]) => filled.judge(entries).steps[1]!.state
    expect(state(lift('both', 0.3), test(0.95))).toBe('accepted')
    expect(state(lift('both', 0.3), lift('both', 0.1), test(0.95))).toBe('in-work')
  })
  it('is not known without its figure', () => {
    const unknown = reachOf({ density: { kind: 'density', due: 'planned' } }, { planned: NaN })
    expect(unknown.judge([]).steps[0]!.state).toBe('blocked')
    expect(unknown.judge([test(0.95)]).steps[0]!.state).toBe('blocked')
  })
})
