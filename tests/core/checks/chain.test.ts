import { describe, expect, it } from 'vitest'
import { chainsOf } from '../../../core/checks/chain'
import type { Entry } from '../../../core/record/entry'
import { entry } from '../entries'

/** Entries that take the place of others, where many are recorded at one step. */
const lift = (minute: number, replaces?: string) =>
  entry('lifts', 'lift', replaces === undefined ? {} : { replaces }, minute)
const counted = (...list: Entry[]) => chainsOf(list).counted.map((c) => [c.place.id, c.entry.id])

describe('replacements', () => {
  const one = lift(1)
  const two = lift(2)
  it('are none: each counts for itself', () => {
    expect(counted(one, two)).toEqual([
      [one.id, one.id],
      [two.id, two.id],
    ])
    expect(chainsOf([one, two]).standsFor(two.id)!.entry).toBe(two)
    expect(chainsOf([one]).standsFor('another')).toBeUndefined()
  })
  it('count at the place of what they replace', () => {
    const better = lift(3, one.id)
    expect(counted(one, two, better)).toEqual([
      [one.id, better.id],
      [two.id, two.id],
    ])
    for (const id of [one.id, better.id])
      expect(chainsOf([one, two, better]).standsFor(id)).toEqual({ entry: better, place: one })
  })
  it('of a replacement count at the first place', () => {
    const better = lift(3, one.id)
    const best = lift(4, better.id)
    expect(counted(one, better, best)).toEqual([[one.id, best.id]])
    expect(chainsOf([one, better, best]).standsFor(better.id)!.entry).toBe(best)
  })
  it('of two the later counts', () => {
    const [early, late] = [lift(3, one.id), lift(4, one.id)]
    expect(counted(one, early, late)).toEqual([[one.id, late.id]])
  })
  it('of what was struck stand at their own time', () => {
    const better = lift(3, '01900000-0000-7000-8000-00000000dead')
    expect(counted(two, better)).toEqual([
      [two.id, two.id],
      [better.id, better.id],
    ])
  })
  it('of what comes later are none: nothing goes in a circle', () => {
    const later = lift(9)
    const before = lift(3, later.id)
    expect(counted(before, later)).toEqual([
      [before.id, before.id],
      [later.id, later.id],
    ])
    const itself = lift(5)
    const own = { ...itself, payload: { replaces: itself.id } }
    expect(counted(own)).toEqual([[own.id, own.id]])
  })
  it('that name no text are none', () =>
    expect(counted(one, entry('lifts', 'lift', { replaces: 7 }, 3))).toHaveLength(2))
})
