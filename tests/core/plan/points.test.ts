import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  goodInARow,
  newCrewRules,
  pointsFor,
  rowOf,
  strongest,
  type Outcome,
  type PointRule,
  type Where,
} from '../../../core/plan/points'
import { isDrawn } from '../../../core/plan/surveillance'

const rule = (more: Partial<PointRule>): PointRule => ({
  ...{ id: 'r1', procedure: 'p', step: 'cut', party: 'inspector', point: 'H', rate: null, line: null },
  ...{ crew: null, from: '2026-03-02', until: null, reason: 'why', by: 'petra', at: 1 },
  review: { by: 'juno', at: 2, accepted: true, reason: '' },
  ...more,
})
const where = (more: Partial<Where> = {}): Where => ({ line: 'L', crew: 'C', day: '2026-03-09', ...more })
const inspector = (rules: PointRule[], at: Partial<Where> = {}) =>
  rowOf(rules, 'p', 'cut', null, where(at)).inspector

describe('a cell of the plan', () => {
  it('is the procedure’s where nobody has said otherwise', () => {
    expect(rowOf([], 'p', 'cut', 'H', where()).inspector).toEqual({ point: 'H', rate: null, rule: null })
    expect(rowOf([], 'p', 'cut', 'W', where()).witness.point).toBe('W')
    expect(rowOf([], 'p', 'cut', 'W', where()).inspector.point).toBeNull()
    expect(rowOf([], 'p', 'cut', 'S', where()).inspector).toMatchObject({ point: 'S', rate: 5 })
  })
  it.each<[string, Partial<PointRule>, Partial<Where>, string | null]>([
    ['from its first day', {}, { day: '2026-03-02' }, 'H'],
    ['not before it', {}, { day: '2026-03-01' }, null],
    ['to its last day', { until: '2026-03-09' }, {}, 'H'],
    ['not after it', { until: '2026-03-08' }, {}, null],
    ['on its line', { line: 'L' }, {}, 'H'],
    ['on no other', { line: 'M' }, {}, null],
    ['for its crew', { crew: 'C' }, {}, 'H'],
    ['for no other', { crew: 'D' }, {}, null],
    ['not before it is reviewed', { review: null }, {}, null],
    ['not when it is turned down', { review: { by: 'x', at: 3, accepted: false, reason: 'no' } }, {}, null],
    ['of its own procedure only', { procedure: 'q' }, {}, null],
    ['of its own step only', { step: 'weld' }, {}, null],
  ])('counts %s', (_what, more, at, point) => expect(inspector([rule(more)], at).point).toBe(point))
  it('a crew goes before a line, a line before all; of equals the last reviewed', () => {
    const all = rule({ id: 'all', point: 'R' })
    const line = rule({ id: 'line', line: 'L', point: 'S', rate: 3 })
    const crew = rule({ id: 'crew', crew: 'C', point: null })
    const later = rule({ id: 'later', point: 'W', review: { by: 'juno', at: 9, accepted: true, reason: '' } })
    expect(inspector([all, line, crew]).rule).toBe('crew')
    expect(inspector([all, line]).rule).toBe('line')
    expect(inspector([later, all]).rule).toBe('later')
    expect(inspector([line])).toEqual({ point: 'S', rate: 3, rule: 'line' })
  })
  it('of a crew that is new every point is a hold, and what is no point stays none', () => {
    const fresh = rule({ step: '*', crew: 'C' })
    expect(rowOf([fresh], 'p', 'cut', 'S', where()).inspector.point).toBe('H')
    expect(strongest(Object.values(rowOf([fresh], 'p', 'cut', null, where())).map((c) => c.point))).toBeNull()
    expect(rowOf([fresh], 'p', 'cut', 'S', where({ crew: 'D' })).inspector.point).toBe('S')
  })
})

describe('a crew that is new', () => {
  const fresh = rule({ step: '*', crew: 'C', good: 3 })
  it('is held at every point until it has worked its way out of it', () => {
    const at = (passed?: string[]) => rowOf([fresh], 'p', 'cut', 'S', where(passed && { passed })).inspector
    expect(at().point).toBe('H')
    expect(at([]).point).toBe('H')
    expect(at(['r1'])).toMatchObject({ point: 'S', rule: null })
    expect(at(['other']).point).toBe('H')
  })
  it('works by rules of its own procedure, reviewed, with a number', () => {
    const others = [
      rule({ id: 'a', procedure: 'q', crew: 'C', good: 3 }),
      rule({ id: 'b', crew: 'D', good: 3 }),
      rule({ id: 'c', crew: 'C' }),
      rule({ id: 'd', crew: 'C', good: 3, review: null }),
      rule({ id: 'e', crew: 'C', good: 3, review: { by: 'juno', at: 2, accepted: false, reason: 'no' } }),
    ]
    expect(newCrewRules([fresh, ...others], 'p', 'C').map((r) => r.id)).toEqual(['r1'])
  })
  const made = (states: string): Outcome[] =>
    [...states].map((c) => ({
      state: ({ a: 'accepted', w: 'waiting', r: 'rejected', i: 'in-work' } as const)[c.toLowerCase() as 'a'],
      reported: c !== c.toLowerCase(),
    }))
  it.each([
    ['', 0],
    ['aaa', 3],
    ['awa', 3],
    ['aira', 1],
    ['iaaiar', 3],
    ['aAaa', 1],
    ['raaa', 0],
    ['Iaaa', 0],
  ])('of "%s", the latest first, %d in a row were good', (states, good) =>
    expect(goodInARow(made(states))).toBe(good),
  )
})

describe('the points that the judge is given', () => {
  const steps = [{ key: 'cut', point: 'S' as const }, { key: 'weld' }]
  it('are what the project said from the start where no rule counts', () =>
    expect(pointsFor([rule({ line: 'M' })], 'p', steps, { weld: 'H' }, where())).toEqual({
      ...{ plan: { weld: 'H' }, beside: {} },
    }))
  it('are the strongest of all parties', () => {
    const rules = [rule({ point: 'R' }), rule({ id: 'r2', party: 'witness', point: 'W' })]
    expect(pointsFor(rules, 'p', steps, {}, where()).plan).toEqual({ cut: 'W', weld: null })
  })
  it('with what the others want besides', () => {
    const rules = [
      rule({ point: 'H' }),
      rule({ id: 'r2', party: 'witness', point: 'W' }),
      rule({ id: 'r3', party: 'authority', point: 'R' }),
    ]
    expect(pointsFor(rules, 'p', steps, {}, where())).toEqual({
      ...{ plan: { cut: 'H', weld: null }, beside: { cut: ['W', 'R'] } },
    })
  })
  it('of two who want the same it is one point', () => {
    const rules = [rule({ point: 'H' }), rule({ id: 'r2', party: 'witness', point: 'H' })]
    expect(pointsFor(rules, 'p', steps, {}, where()).beside).toEqual({})
  })
  it('a rule takes a point away that the procedure has', () =>
    expect(pointsFor([rule({ point: null })], 'p', steps, {}, where()).plan.cut).toBeNull())
})

describe('what is drawn to be watched', () => {
  it('is the same whoever asks', () => expect(isDrawn('joint', 'cut', 5)).toBe(isDrawn('joint', 'cut', 5)))
  it('is everything at one in one', () => fc.assert(fc.property(fc.uuid(), (id) => isDrawn(id, 'cut', 1))))
  it.each([2, 5, 20])('is about one in %d', (rate) => {
    const drawn = Array.from({ length: 4000 }, (_v, i) => isDrawn(`joint ${i}`, 'cut', rate)).filter(Boolean)
    expect(drawn.length / 4000).toBeGreaterThan(0.8 / rate)
    expect(drawn.length / 4000).toBeLessThan(1.2 / rate)
  })
})
