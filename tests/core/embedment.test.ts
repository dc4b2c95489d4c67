import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judgeReach, materials, sampleEmbedmentCriteria, type Side } from '../../core/embedment/reach'
import type { Entry } from '../../core/record/entry'
import { entry } from './support'

const lift = (side: Side, thickness: number, more: object = {}) =>
  entry('', 'lift', { side, thickness, passes: 4, material: 'sand', haunched: true, ...more })
const density = (compaction: number) =>
  entry('', 'density', { side: 'both', wetDensity: 1900 * compaction * 1.08, moisture: 0.08, maximum: 1900 })
const strike = (of: Entry) => entry('', 'correction', { strikes: of.id, reason: 'wrong reach' })
const OD = 0.315

describe('levels', () => {
  it('each side is the sum of its lifts', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.constantFrom<Side>('left', 'right', 'both'), fc.integer({ min: 20, max: 300 })),
          { maxLength: 12 },
        ),
        (steps) => {
          const judged = judgeReach(
            steps.map(([side, mm]) => lift(side, mm / 1000)),
            OD,
          )
          const sum = (of: Side) =>
            steps.filter(([side]) => side === of || side === 'both').reduce((s, [, mm]) => s + mm / 1000, 0)
          expect(judged.left).toBeCloseTo(sum('left'), 9)
          expect(judged.right).toBeCloseTo(sum('right'), 9)
          expect(judged.lifts).toHaveLength(steps.length)
        },
      ),
    )
  })
  it('left and right are treated alike', () => {
    const mirror = (side: Side): Side => (side === 'left' ? 'right' : side === 'right' ? 'left' : 'both')
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.constantFrom<Side>('left', 'right', 'both'), fc.integer({ min: 20, max: 400 })),
          { maxLength: 8 },
        ),
        (steps) => {
          const [a, b] = [(s: Side) => s, mirror].map((turn) =>
            judgeReach(
              steps.map(([side, mm]) => lift(turn(side), mm / 1000)),
              OD,
            ),
          )
          expect([a!.state, a!.left, a!.right]).toEqual([b!.state, b!.right, b!.left])
          expect(a!.lifts.map((l) => l.verdict)).toEqual(b!.lifts.map((l) => l.verdict))
        },
      ),
    )
  })
  it('a struck lift was never laid', () => {
    const wrong = lift('both', 0.2)
    expect(judgeReach([lift('both', 0.1), wrong, strike(wrong), lift('both', 0.1)], OD).left).toBeCloseTo(
      0.2,
      9,
    )
  })
  it('the fill by hand goes to 300 mm over the crown', () =>
    expect(judgeReach([], OD).target).toBeCloseTo(OD + 0.3, 9))
})

describe('a lift', () => {
  const verdict = (more: object, before: Entry[] = []) =>
    judgeReach([...before, lift('both', 0.15, more)], OD).lifts.at(-1)!
  it.each([
    [0.3, 'accept'],
    [0.301, 'reject'],
    [0.02, 'accept'],
  ])('of %f m: %s', (thickness, want) => expect(verdict({ thickness }).verdict).toBe(want))
  it.each([
    [3, 'accept'],
    [2, 'reject'],
    [0, 'reject'],
  ])('with %i passes: %s', (passes, want) => expect(verdict({ passes }).verdict).toBe(want))
  it.each(materials.map((m) => [m.key, m.conforms] as const))('of %s conforms: %s', (material, conforms) =>
    expect(verdict({ material }).verdict).toBe(conforms ? 'accept' : 'reject'),
  )
  it('every fault of a lift is said, not only the first', () =>
    expect(verdict({ thickness: 0.5, passes: 1, material: 'frozen', haunched: false }).reasons).toHaveLength(
      4,
    ))
  it('the haunch counts only below the middle of the pipe', () => {
    expect(verdict({ haunched: false }).verdict).toBe('reject')
    expect(verdict({ haunched: false }, [lift('both', 0.16)]).verdict).toBe('accept')
  })
  it.each([
    [0.15, 'accept'],
    [0.151, 'reject'],
  ])('one side %f m ahead: %s', (ahead, want) =>
    expect(judgeReach([lift('left', ahead)], OD).lifts[0]!.verdict).toBe(want),
  )
})

describe('relaying', () => {
  it('a second relaying stands for the first, and both stay readable', () => {
    const first = lift('both', 0.5)
    const second = lift('both', 0.4, { replaces: first.id })
    const third = lift('both', 0.2, { replaces: second.id })
    const judged = judgeReach([first, second, third], OD)
    expect(judged.left).toBeCloseTo(0.2, 9)
    expect(judged.lifts.map((l) => [l.thickness, l.replaced])).toEqual([
      [0.5, true],
      [0.4, true],
      [0.2, false],
    ])
    expect(judged.state).toBe('in-work')
  })
  it('lifts that name each other end, and lay nothing twice', () => {
    const a = lift('both', 0.1)
    const b = lift('both', 0.1, { replaces: a.id })
    const loop = { ...a, payload: { ...a.payload, replaces: b.id } }
    expect(judgeReach([loop, b], OD).lifts).toHaveLength(0)
  })
})

describe('density', () => {
  it.each([
    [0.92, 'accept'],
    [0.906, 'accept'],
    [0.904, 'too-close'],
    [0.9, 'too-close'],
    [0.896, 'too-close'],
    [0.89, 'reject'],
  ])('%f of the maximum: %s', (compaction, want) =>
    expect(judgeReach([density(compaction)], OD).tests[0]!.verdict).toBe(want),
  )
  it('a maximum of nothing compacts nothing', () =>
    expect(
      judgeReach([entry('', 'density', { side: 'both', wetDensity: 1900, moisture: 0.1, maximum: 0 })], OD)
        .tests[0]!.verdict,
    ).toBe('reject'))
  it('the last test decides', () => {
    expect(judgeReach([lift('both', 0.1), density(0.8), density(0.95)], OD).state).toBe('in-work')
    expect(judgeReach([lift('both', 0.1), density(0.95), density(0.8)], OD).state).toBe('rejected')
  })
  it('one test is due for every two levels', () => {
    const levels = (n: number) => Array.from({ length: n }, () => lift('both', 0.1))
    const due = (n: number, tests: number) =>
      judgeReach([...levels(n), ...Array.from({ length: tests }, () => density(0.95))], OD).due.find((d) =>
        d.includes('density'),
      ) ?? ''
    expect([due(1, 0), due(2, 1), due(3, 1), due(7, 2)]).toEqual([
      '1 more density test.',
      '',
      '1 more density test.',
      '2 more density tests.',
    ])
  })
})

describe('a reach', () => {
  it('with nothing recorded has not begun', () => expect(judgeReach([], OD).state).toBe('not-started'))
  it('is accepted exactly when nothing is due', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.integer({ min: 50, max: 320 }).map((mm) => () => lift('both', mm / 1000)),
            fc.double({ min: 0.85, max: 1, noNaN: true }).map((c) => () => density(c)),
          ),
          { maxLength: 10 },
        ),
        (make) => {
          const judged = judgeReach(
            make.map((m) => m()),
            OD,
          )
          expect(judged.state === 'accepted').toBe(
            judged.due.length === 0 && (judged.lifts.length > 0 || judged.tests.length > 0),
          )
        },
      ),
    )
  })
  it('criteria are the engineer’s', () =>
    expect(judgeReach([lift('both', 0.4)], OD, { ...sampleEmbedmentCriteria, maxLift: 0.5 }).state).toBe(
      'in-work',
    ))
})
