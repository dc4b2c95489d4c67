import { describe, expect, it } from 'vitest'
import { readPressureLog } from '../../core/pressure/log'
import { planPack } from '../../core/pressure/pack'
import { readyList, type ReadyFacts } from '../../core/pressure/ready'

import { Problem } from '../../core/problem'

const section = { length: 600, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }

describe('a pressure log', () => {
  it.each([
    ['time,pressure kPa\n2026-03-09T06:00:00Z,10\n2026-03-09T06:01:00Z,abc', /Row 3, column "pressure kPa"/],
    ['time,pressure kPa\nyesterday,10\n2026-03-09T06:01:00Z,9', /Row 2, column "time"/],
    ['a,b\n1,2\n3,4', /needs the columns/],
  ])('%j is refused', (text, sentence) => {
    expect(() => readPressureLog(text)).toThrow(Problem)
    expect(() => readPressureLog(text)).toThrow(sentence)
  })
})

describe('a test pack on its profile', () => {
  const profile = [
    { station: 0, elevation: 0 },
    { station: 300, elevation: 40 },
    { station: 600, elevation: -5 },
  ]
  const plan = planPack(profile, {
    section,
    outsideDiameter: 0.315,
    rating: 16e5,
    weakest: 'pipe',
    gaugeElevation: 0,
    testPressure: 12.5e5,
    required: 10e5,
  })
  it('the highest point sees too little here, the lowest is within its class', () => {
    expect(plan.highest.pressure).toBeCloseTo(12.5e5 - 40 * 9806.65, 0)
    expect([plan.highOk, plan.lowOk]).toEqual([false, true])
    expect(plan.endThrust).toBeCloseTo((12.5e5 + 5 * 9806.65) * (Math.PI / 4) * 0.315 ** 2, 0)
  })
  const facts = (more: Partial<ReadyFacts> = {}): ReadyFacts => ({
    now: 1000,
    joints: [{ id: 'j', number: 'RM-1', ready: true, gated: true, at: 1000, heldSteps: 0 }],
    ncrs: [],
    reaches: [],
    gauge: { id: 'g', name: 'P-7', max: 25e5, calibratedUntil: 2000 },
    testPressure: 12.5e5,
    sight: null,
    plan: { highOk: true, lowOk: true },
    material: 'polyethylene',
    methodMaterial: 'polyethylene',
    confirmed: { restraint: 'x', filled: 'x', sensor: 'x', exclusion: 'x', witness: 'x' },
    ...more,
  })
  const open = (more: Partial<ReadyFacts>) => readyList(facts(more)).filter((r) => r.state === 'open')
  it.each([
    ['is fine enough', { doubt: 2, allowed: 9, unit: 'L' as const }, 0],
    ['cannot tell what is allowed', { doubt: 9.2, allowed: 9, unit: 'L' as const }, 1],
  ])('a gauge that %s', (_what, sight, rows) => expect(open({ sight })).toHaveLength(rows))
  it('is ready when every row is met', () => expect(open({})).toEqual([]))
  it('a joint whose procedure has no clock before the test keeps none back', () =>
    expect(
      open({ joints: [{ id: 'j', number: 'HO-1', ready: true, gated: false, at: null, heldSteps: 0 }] }),
    ).toEqual([]))
  it.each<[string, Partial<ReadyFacts>, RegExp]>([
    [
      'clocks',
      { joints: [{ id: 'j', number: 'RM-9', ready: true, gated: true, at: 1001, heldSteps: 0 }] },
      /Time still runs at: RM-9/,
    ],
    [
      'clocks',
      { joints: [{ id: 'j', number: 'RM-9', ready: true, gated: true, at: null, heldSteps: 0 }] },
      /Not known yet when: RM-9/,
    ],
    [
      'joints',
      { joints: [{ id: 'j', number: 'RM-9', ready: false, gated: true, at: 5, heldSteps: 0 }] },
      /Not accepted: RM-9/,
    ],
    [
      'holds',
      { joints: [{ id: 'j', number: 'RM-9', ready: true, gated: true, at: 5, heldSteps: 1 }] },
      /Held: RM-9/,
    ],
    [
      'embedment',
      { reaches: [{ id: 'r', name: 'RM reach 2', state: 'in-work' }] },
      /Not complete: RM reach 2/,
    ],
    ['profile', { plan: { highOk: false, lowOk: true } }, /highest point sees too little/],
    ['profile', { plan: { highOk: true, lowOk: false } }, /overloaded/],
    ['ncrs', { ncrs: [{ id: 'n', number: 'NCR-0001', open: true, conceded: false }] }, /Open: NCR-0001/],
    ['gauge', { gauge: { id: 'g', name: 'P-7', max: 25e5, calibratedUntil: 500 } }, /out of calibration/],
    ['gauge', { gauge: { id: 'g', name: 'P-9', max: 100e5, calibratedUntil: 2000 } }, /25 and 75 %/],
    ['method', { material: 'ductile iron' }, /the line is ductile iron/],
    [
      'witness',
      { confirmed: { restraint: 'x', filled: 'x', sensor: 'x', exclusion: 'x' } },
      /To be confirmed/,
    ],
  ])('%s stays open', (key, more, sentence) => {
    const rows = open(more)
    expect(rows.map((r) => r.key)).toEqual([key])
    expect(rows[0]!.sentence).toMatch(sentence)
  })
})
