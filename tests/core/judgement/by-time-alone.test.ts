import { describe, expect, it } from 'vitest'
import { judgeAhead, stateAt } from '../../../core/judgement/ahead'
import { read, yes } from '../support'
import { at, facts, small } from './support'

/** What a joint comes into though nobody does anything: clocks run out. */
const free = { plan: { before: null } }
const joined = [yes('peeled', 1), yes('wiped', 2), read('gouge', [0.0002], 2), yes('joined', 5)]

describe('what changes by time alone', () => {
  const ahead = (minute: number, entries = joined) => judgeAhead(small, facts, entries, at(minute), free)
  it('is told in the order of its moments, the latest time itself being in time', () => {
    const { judgement, changes } = ahead(10)
    expect(judgement.clocks.map((c) => [c.step, c.until, c.latest])).toEqual([
      ['off', at(35), at(65)],
      ['cured', at(65), null],
    ])
    expect(changes.map((c) => c.at)).toEqual([...changes.map((c) => c.at)].sort((a, b) => a - b))
    expect(changes.map((c) => (c.at - at(0)) / 60_000)).toContain(65 + 1 / 60_000)
    // Each is another state than the one before it.
    const states = [judgement.state, ...changes.map((c) => c.state)]
    for (let i = 1; i < states.length; i++) expect(states[i]).not.toBe(states[i - 1])
    for (const c of changes) expect(ahead((c.at - at(0)) / 60_000).judgement.state).toBe(c.state)
  })
  it('is nothing of what is over', () => {
    const { changes } = ahead(40)
    expect(changes.every((c) => c.at > at(40))).toBe(true)
    expect(ahead(500).changes).toEqual([])
    // What comes at this very moment is there already.
    expect(ahead(35).changes.some((c) => c.at === at(35))).toBe(false)
  })
  it('is nothing where no clock runs', () => expect(ahead(10, []).changes).toEqual([]))
  it('is shown from what is stored', () => {
    const stored = {
      state: 'waiting' as const,
      changes: [
        { at: 10, state: 'in-work' as const },
        { at: 20, state: 'rejected' as const },
      ],
    }
    expect([9, 10, 19, 20, 99].map((now) => stateAt(stored, now))).toEqual([
      ...['waiting', 'in-work', 'in-work', 'rejected', 'rejected'],
    ])
  })
})
