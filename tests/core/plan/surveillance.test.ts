import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { occasions } from '../../../core/plan/occasions'
import type { PointRule } from '../../../core/plan/points'
import { isDrawn, ratesFor, watchCount } from '../../../core/plan/surveillance'

const ids = Array.from({ length: 4000 }, (_v, i) => `019d0000-0000-7000-8000-${String(i).padStart(12, '0')}`)

describe('which joints are watched', () => {
  it.each([1, 2, 5, 10])('one in %d, near enough', (rate) => {
    const drawn = ids.filter((id) => isDrawn(id, 'peeled', rate)).length
    const spread = 4 * Math.sqrt(ids.length * (1 / rate) * (1 - 1 / rate))
    expect(Math.abs(drawn - ids.length / rate)).toBeLessThanOrEqual(spread)
  })
  it('is the same whoever asks, and another for another step', () => {
    fc.assert(
      fc.property(fc.uuid(), fc.string(), (id, step) => isDrawn(id, step, 5) === isDrawn(id, step, 5)),
    )
    const draw = (step: string) => ids.map((id) => isDrawn(id, step, 2))
    expect(draw('peeled')).not.toEqual(draw('clamped'))
  })
})

it.each(occasions)('what is watched %s is drawn when that is the occasion, and else never', (occasion) => {
  fc.assert(
    fc.property(
      fc.uuid(),
      fc.subarray([...occasions]),
      (id, of) => isDrawn(id, 'peeled', occasion, of) === of.includes(occasion),
    ),
  )
  expect(isDrawn('a', 'peeled', occasion)).toBe(false)
})

describe('of how many a step is watched', () => {
  const rule = (more: Partial<PointRule>): PointRule => ({
    ...{ id: 'r', procedure: 'weld', step: 'wipe', party: 'inspector', point: 'S', rate: 3 },
    ...{ line: null, crew: null, from: '2026-01-01', until: null, reason: 'x', by: 'p', at: 1 },
    review: { by: 'j', at: 2, accepted: true, reason: '' },
    ...more,
  })
  const steps = [{ key: 'wipe', point: 'S' as const }, { key: 'fuse', point: 'H' as const }, { key: 'look' }]
  const rates = (...rules: PointRule[]) =>
    ratesFor(rules, 'weld', steps, {}, { line: null, crew: null, day: '2026-05-01' })
  it('one in five where nobody says otherwise, and of no other step', () =>
    expect(rates()).toEqual({ wipe: [5] }))
  it('as the plan says', () => expect(rates(rule({}))).toEqual({ wipe: [3] }))
  it('of several parties the one that wants to see most', () =>
    expect(rates(rule({}), rule({ id: 's', party: 'witness', rate: 2 }))).toEqual({ wipe: [2] }))
  it('and whoever comes on an occasion comes besides', () => {
    expect(rates(rule({}), rule({ id: 's', party: 'witness', rate: 'first-of-day' }))).toEqual({
      wipe: [3, 'first-of-day'],
    })
    expect(rates(rule({ rate: 'after-rejection' }))).toEqual({ wipe: ['after-rejection'] })
  })
  it('a hold of the same party is no surveillance; that of another takes nothing from it', () => {
    expect(rates(rule({ point: 'H', rate: null }))).toEqual({})
    expect(rates(rule({ party: 'witness', point: 'H', rate: null }))).toEqual({ wipe: [5] })
  })
})

it('what was watched is counted against what was drawn, of joints where it was done', () =>
  expect(
    watchCount([
      { drawn: true, done: true, watched: true },
      { drawn: true, done: true, watched: false },
      { drawn: false, done: true, watched: true },
      { drawn: false, done: true, watched: false },
      { drawn: true, done: false, watched: false },
    ]),
  ).toEqual({ done: 4, drawn: 2, watched: 1, besides: 1 }))
