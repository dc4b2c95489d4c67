import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  canBeShut,
  expectedTests,
  nextSplit,
  suspectStretches,
  tightBy,
} from '../../../core/pressure/halving'

describe('halving down to the leak', () => {
  it.each<[string, string | null, boolean | null]>([
    ['failed', null, false],
    ['evaluated', 'accept', true],
    ['evaluated', 'reject', false],
    ['evaluated', 'too-close', false],
    ['signed', 'accept', true],
    ['planned', null, null],
    ['running', 'accept', null],
  ])('a part that is %s, %s, is tight: %s', (state, verdict, tight) =>
    expect(tightBy(state, verdict)).toBe(tight),
  )
  it('a line is shut at valves, closures and manholes', () =>
    expect(['valve', 'closure', 'manhole', 'bend', 'crossing'].map(canBeShut)).toEqual([
      ...[true, true, true],
      ...[false, false],
    ]))
  const whole = { from: 0, to: 100 }
  it.each([
    ['nothing tested yet', [], [[0, 100]]],
    ['a tight half is out', [{ from: 0, to: 50, tight: true }], [[50, 100]]],
    ['a failed half has it', [{ from: 0, to: 50, tight: false }], [[0, 50]]],
    [
      'tight in the middle leaves both ends',
      [{ from: 40, to: 60, tight: true }],
      [
        [0, 40],
        [60, 100],
      ],
    ],
    [
      'part by part to one joint',
      [
        { from: 0, to: 50, tight: true },
        { from: 50, to: 75, tight: false },
        { from: 50, to: 62, tight: true },
      ],
      [[62, 75]],
    ],
    ['all tight: it has closed, or was at the ends', [{ from: 0, to: 100, tight: true }], []],
  ] as const)('%s', (_what, parts, left) =>
    expect(suspectStretches(whole, parts).map((s) => [s.from, s.to])).toEqual(left),
  )
  it('parts at an isolation near the middle, else between joints', () => {
    const joints = [10, 30, 47, 70].map((at) => ({ at, name: null }))
    expect(nextSplit(whole, joints)).toEqual({ at: 47, name: null })
    expect(nextSplit(whole, [...joints, { at: 60, name: 'Valve 3' }])).toEqual({ at: 60, name: 'Valve 3' })
    expect(nextSplit(whole, [...joints, { at: 90, name: 'Valve 4' }])).toEqual({ at: 47, name: null })
    expect(nextSplit({ from: 48, to: 69 }, joints)).toBeNull()
  })
  it('takes as many tests as it takes to tell so many joints apart', () => {
    expect([1, 2, 4, 8, 3, 50].map(expectedTests)).toEqual([
      0,
      1,
      2,
      3,
      1 + 4 / 3 - 2 / 3,
      expect.closeTo(5.72, 2),
    ])
  })
  it('never leaves out where the leak is', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 999 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 1, max: 400 })), {
          maxLength: 12,
        }),
        (leak, spans) => {
          const at = leak + 0.5
          const parts = spans.map(([from, length]) => ({
            ...{ from, to: from + length },
            tight: !(at > from && at < from + length),
          }))
          const left = suspectStretches({ from: 0, to: 1000 }, parts)
          expect(left.some((s) => at > s.from && at < s.to)).toBe(true)
        },
      ),
    ))
})
