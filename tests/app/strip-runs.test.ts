import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { runsOf, within, type RunJoint } from '../../app/drawings/strip-runs'

const states = [
  'withdrawn',
  'accepted',
  'not-started',
  'in-work',
  'waiting',
  'too-close',
  'held',
  'rejected',
] as const
const line = fc
  .array(fc.record({ station: fc.integer({ min: 0, max: 5000 }), state: fc.constantFrom(...states) }), {
    maxLength: 400,
  })
  .map((list): RunJoint[] => list.sort((a, b) => a.station - b.station))

describe('the joints in view', () => {
  it('are those between the two stations, ends included, found by halving', () => {
    fc.assert(
      fc.property(line, fc.integer({ min: 0, max: 5000 }), fc.nat(3000), (joints, from, span) => {
        const to = from + span
        expect(within(joints, from, to)).toEqual(joints.filter((j) => j.station >= from && j.station <= to))
      }),
    )
  })
})

describe('joints as runs of pixels', () => {
  it('none is lost, and none stands twice', () => {
    fc.assert(
      fc.property(line, fc.double({ min: 0.001, max: 2, noNaN: true }), (joints, scale) => {
        const runs = runsOf(joints, (s) => s * scale)
        expect(runs.reduce((n, r) => n + r.count, 0)).toBe(joints.length)
      }),
    )
  })
  it('what is most urgent shows, where many share a pixel', () => {
    fc.assert(
      fc.property(line, (joints) => {
        const [run] = runsOf(joints, () => 30)
        const worst = joints.reduce((w, j) => Math.max(w, states.indexOf(j.state)), -1)
        expect(run?.state).toBe(worst < 0 ? undefined : states[worst])
      }),
    )
  })
  it('a run never begins before the one before it ends', () => {
    fc.assert(
      fc.property(line, fc.double({ min: 0.001, max: 2, noNaN: true }), (joints, scale) => {
        const runs = runsOf(joints, (s) => s * scale)
        for (const [i, run] of runs.entries())
          if (i > 0) expect(run.x).toBeGreaterThanOrEqual(runs[i - 1]!.x + runs[i - 1]!.width)
      }),
    )
  })
})
