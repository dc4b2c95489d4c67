import { describe, expect, it } from 'vitest'
import { outOfOrder, type Before } from '../../../core/judgement/order'
import { NO_RELEASE } from '../../../core/judgement/decisions'
import type { Entry } from '../../../core/record/entry'
import { entry, read, T0, yes } from '../entries'

/** Whether an answer was recorded in its order, by one step that comes first. */
const at = (minute: number) => T0 + minute * 60_000
const peeled = { title: 'Peeled', onlyWaits: false }
const cooled = { title: 'Cooled', onlyWaits: true }
const stands = (more: Partial<Before> = {}): Before => ({
  ...{ state: 'accepted', release: NO_RELEASE, until: null, entry: null, point: null },
  ...more,
})
const answer = (minute: number) => yes('wiped', minute)
const by = (entries: Entry[], more: Partial<Before> = {}) =>
  stands({ entry: entries.at(-1)?.id ?? null, ...more })

describe('what comes first', () => {
  const done = yes('peeled', 5)
  it('was done before, or at the same moment', () => {
    expect(outOfOrder(answer(6), peeled, by([done]), [done])).toBeNull()
    expect(outOfOrder(answer(5), peeled, by([done]), [done])).toBeNull()
  })
  it('was done only after: it was recorded too early', () =>
    expect(outOfOrder(answer(4), peeled, by([done]), [done])).toEqual({
      ...{ state: 'rejected', sentence: 'Recorded before "Peeled", which comes first.' },
    }))
  it('was done before and again after: this is done again', () => {
    const again = yes('peeled', 8)
    expect(outOfOrder(answer(6), peeled, by([done, again]), [done, again])).toEqual({
      ...{ state: 'not-started', sentence: '"Peeled" was done again after this: do this again.' },
    })
  })
  it('is not done at all: this does not count before it', () =>
    expect(outOfOrder(answer(6), peeled, stands({ state: 'not-started' }), [])).toEqual({
      state: 'blocked',
      sentence: 'First: Peeled. What is recorded here does not count before it.',
    }))
  it('a remark is no answer', () => {
    const remark = entry('peeled', 'remark', { text: 'Wet' }, 1)
    expect(outOfOrder(answer(6), peeled, stands({ state: 'not-started' }), [remark])!.state).toBe('blocked')
  })
  it.each(['not-applicable', 'accepted'] as const)('nobody answers it and it is %s: in order', (state) =>
    expect(outOfOrder(answer(6), peeled, stands({ state }), [])).toBeNull(),
  )
  it('does not apply: whatever is recorded there does not matter', () =>
    expect(outOfOrder(answer(4), peeled, by([done], { state: 'not-applicable' }), [done])).toBeNull())
  it('is judged by the entry that decides, not by the last', () => {
    const later = read('peeled', [1], 9)
    expect(outOfOrder(answer(6), peeled, stands({ entry: done.id }), [done, later])).toBeNull()
  })
})

describe('a clock that comes first', () => {
  it('has run by then', () => {
    const run = stands({ until: at(10) })
    expect(outOfOrder(answer(10), cooled, run, [])).toBeNull()
    expect(outOfOrder(answer(9), cooled, run, [])).toMatchObject({ state: 'rejected' })
  })
  it('of which nobody knows when holds nothing back here', () =>
    expect(outOfOrder(answer(9), cooled, stands({ until: null, state: 'not-started' }), [])).toBeNull())
})

describe('a hold point that comes first', () => {
  const asked = [yes('hold', 3)]
  const hold = (state: 'released' | 'waived' | 'requested', minute: number) =>
    by(asked, { point: 'H', release: { state, at: at(minute), by: 'ines', reason: null } })
  it.each(['released', 'waived'] as const)('counts from when it was %s, not from its own answer', (state) => {
    expect(outOfOrder(answer(7), peeled, hold(state, 7), asked)).toBeNull()
    expect(outOfOrder(answer(6), peeled, hold(state, 7), asked)).toMatchObject({ state: 'not-started' })
  })
  it('that is only asked for counts by its answer', () =>
    expect(outOfOrder(answer(6), peeled, hold('requested', 7), asked)).toBeNull())
})
