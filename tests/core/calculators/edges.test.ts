import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dnOfInches } from '../../../core/calculators/input'
import { findCalculator } from '../../../core/calculators/registry'
import { Problem } from '../../../core/problem'

/** What each calculator does at the very edge of its rule, where a slip would hurt somebody. */
const run = (key: string, inputs: Record<string, unknown>) => findCalculator(key).run(inputs).outputs
const refused = (key: string, inputs: Record<string, unknown>): string | null => {
  try {
    run(key, inputs)
    return null
  } catch (error) {
    if (error instanceof Problem) return error.field
    throw error
  }
}
const HOUR = 3600

describe('at the edge of a rule', () => {
  it('an answer that is not finite does not go out', () =>
    expect(refused('gouge', { depth: 1e308, wall: 1e-308 })).not.toBeNull())
  it('a manhole at the deepest row of the table is read, one deeper is refused and never extrapolated', () => {
    expect(run('vacuum-time', { diameter: '48 in', depth: '20 ft' }).seconds).toBeCloseTo(50, 9)
    expect(refused('vacuum-time', { diameter: '48 in', depth: '20.1 ft' })).toBe('depth')
    expect(refused('vacuum-time', { diameter: '29 in', depth: '10 ft' })).toBe('diameter')
    expect(run('vacuum-time', { diameter: '30 in', depth: '2 ft' }).seconds).toBeCloseTo(11, 9)
  })
  it('an uncertainty in °F is a difference of degrees, without the zero of the scale', () => {
    // 3.6 °F are 2 K: 3 K from the limit is clear of it, 1 K is not.
    const verdict = (value: string, uncertainty: string) =>
      run('guard-band', { value, max: '40 °C', uncertainty }).verdict
    expect([verdict('37 °C', '3.6 °F'), verdict('39 °C', '3.6 °F'), verdict('37 °C', '2 °C')]).toEqual([
      'accept',
      'too-close',
      'accept',
    ])
  })
  it('the water let out may be as much as is allowed, and no drop more', () => {
    const base = { volume: 100, drop: 70e3, insideDiameter: 0.2, wall: 0.02, modulus: 900e6 }
    const allowed = run('pe-air-check', { ...base, released: 0 }).allowed as number
    expect(run('pe-air-check', { ...base, released: allowed }).ok).toBe(true)
    expect(run('pe-air-check', { ...base, released: allowed * (1 + 1e-9) }).ok).toBe(false)
  })
  it.each([
    [2, 50],
    [8, 200],
    [12, 300],
    [14, 350],
    [18, 450],
    [24, 600],
    [48, 1200],
  ])('%d in by trade is DN %d', (inches, dn) => expect(dnOfInches(inches)).toBe(dn))
  it('a count is a whole number: neither a part nor a percentage', () => {
    const angle = (count: unknown) => refused('bolt-sequence', { count, pattern: 'star', stages: [1] })
    expect([angle(6), angle('6'), angle(6.5), angle('200 %'), angle('6 mm')]).toEqual([
      null,
      null,
      'count',
      'count',
      'count',
    ])
  })
  it.each([
    [5, 24],
    [5.001, 8],
    [16, 8],
    [16.001, 2],
    [-18, 24],
    [38, 2],
  ])('cement of a 300 mm pipe sets at %d °C in %d h: on a boundary the longer time', (temperature, hours) =>
    expect(run('cement-cure', { size: 0.3, temperature, pressure: 0 }).set).toBe(hours * HOUR),
  )
  it.each([
    [38.1, 'temperature'],
    [-18.1, 'temperature'],
  ])('and at %d °C it cannot be said', (temperature, field) =>
    expect(refused('cement-cure', { size: 0.3, temperature, pressure: 0 })).toBe(field),
  )
  it('a stop lies in the middle of a fitting at most', () => {
    expect(run('stab-depth', { fittingWidth: 0.2, stopDepth: 0.1 }).stabDepth).toBe(0.1)
    expect(refused('stab-depth', { fittingWidth: 0.2, stopDepth: 0.1001 })).toBe('stopDepth')
  })
  it('clamps come off after some cooling, and no test without any', () => {
    const times = (testFactor: number) =>
      refused('electrofusion-times', { start: '2026-03-09T08:00:00Z', fusion: 60, cooling: 600, testFactor })
    expect([times(0), times(-1), times(1)]).toEqual(['testFactor', 'testFactor', null])
  })
})

describe('turns shared over earlier joints', () => {
  const correct = (angle: number, remaining: number[]) =>
    run('thread-correction', { angle, remaining }) as unknown as { extra: number[]; ok: boolean }
  it('give the angle together, none more than it has left, and whoever has room gives as much as the others', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 359, noNaN: true }),
        fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { minLength: 1, maxLength: 12 }),
        (angle, remaining) => {
          const { extra, ok } = correct(angle, remaining)
          const most = remaining.map((r) => 360 * r)
          const sum = (list: number[]) => list.reduce((a, b) => a + b, 0)
          expect(ok).toBe(sum(most) >= angle - 1e-9)
          expect(sum(extra)).toBeCloseTo(Math.min(angle, sum(most)), 6)
          extra.forEach((e, i) => expect(e).toBeLessThanOrEqual(most[i]! + 1e-9))
          if (ok) {
            const share = Math.max(...extra)
            extra.forEach((e, i) => expect(e).toBeCloseTo(Math.min(share, most[i]!), 6))
          }
        },
      ),
    )
  })
  it.each([[0], [360], [-5]])('an angle of %d° is none', (angle) =>
    expect(refused('thread-correction', { angle, remaining: [1] })).toBe('angle'),
  )
})

describe('pulling a pipe in', () => {
  const pull = (edges: number[]) => run('pull-skew', { edges, diameter: 0.4 })
  it.each([
    [[12, 10, 8, 10], 0],
    [[10, 12, 10, 8], 90],
    [[8, 10, 12, 10], 180],
    [[10, 8, 10, 12], 270],
    [[12, 12, 8, 8], 45],
  ])('edges of %j mm: pull at %d°', (edges, next) =>
    expect(pull(edges.map((e) => e / 1000)).next).toBeCloseTo(next, 9),
  )
  it('even all round there is nothing to pull', () =>
    expect(pull([0.01, 0.01, 0.01, 0.01])).toMatchObject({ mean: 0.01, skew: 0, next: null }))
  it('four edges, no more and no fewer', () =>
    expect(refused('pull-skew', { edges: [1, 2, 3], diameter: 0.4 })).toBe('edges'))
})

describe('cure from logged temperatures', () => {
  const cure = (steps: object[], more: object = {}) =>
    run('cure-progress', { size: 0.05, pressure: 6e5, steps, ...more })
  it('is the same whatever spells it is cut into', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            temperature: fc.double({ min: -18, max: 38, noNaN: true }),
            duration: fc.double({ min: 1, max: 1e4, noNaN: true }),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (steps) => {
          const halves = steps.flatMap((s) => [
            { ...s, duration: s.duration / 2 },
            { ...s, duration: s.duration / 2 },
          ])
          expect(cure(halves).fraction as number).toBeCloseTo(cure(steps).fraction as number, 9)
        },
      ),
    )
  })
  it('nothing cures below −18 °C, and what is left then cannot be said', () =>
    expect(cure([{ temperature: -20, duration: 1e6 }])).toMatchObject({ fraction: 0, remaining: null }))
  it('done is done, also in the frost', () =>
    expect(
      cure([
        { temperature: 20, duration: 1e6 },
        { temperature: -20, duration: 10 },
      ]),
    ).toMatchObject({ remaining: 0 }))
  it('the fraction goes on past one', () =>
    expect(cure([{ temperature: 20, duration: 3600 }]).fraction).toBeCloseTo(2, 9))
  it('beyond the table it is refused', () => {
    expect(
      refused('cure-progress', { size: 0.05, pressure: 6e5, steps: [{ temperature: 39, duration: 1 }] }),
    ).toBe('steps')
    expect(
      refused('cure-progress', { size: 0.05, pressure: 3e6, steps: [{ temperature: 20, duration: 1 }] }),
    ).toBe('pressure')
    expect(
      refused('cure-progress', { size: 0.3, pressure: 2e6, steps: [{ temperature: 20, duration: 1 }] }),
    ).toBe('pressure')
    expect(refused('cure-progress', { size: 0.05, pressure: 6e5, steps: [] })).toBe('steps')
  })
})

it('peeling takes off: a girth that has grown is a slip of the tape', () => {
  expect(refused('peel-by-girth', { before: 1, after: 1.001 })).toBe('after')
  expect(run('peel-by-girth', { before: 1, after: 1 }).depth).toBe(0)
})
it('a pipe thicker than the bore has a gap below nothing', () =>
  expect(run('fusion-gap', { bore: 0.11, od: 0.1104 }).gap as number).toBeCloseTo(-0.0002, 12))
it('two people have the cement on in half the time', () => {
  const coat = (people: number) =>
    run('coating-time', { diameter: 0.2, depth: 0.1, coats: 2, pace: 0.002, temperature: 20, people })
  expect((coat(2).needed as number) * 2).toBeCloseTo(coat(1).needed as number, 9)
  expect(
    refused('coating-time', { diameter: 0.2, depth: 0.1, coats: 2, pace: 0.002, temperature: 45, people: 1 }),
  ).toBe('temperature')
})
