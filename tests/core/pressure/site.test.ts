import { describe, expect, it } from 'vitest'
import { readPressureLog } from '../../../core/pressure/log'
import { planPack } from '../../../core/pressure/pack'
import { readyList, type ReadyFacts } from '../../../core/pressure/ready'

import { witnessOf } from '../../../core/judgement/witness'
import type { Entry } from '../../../core/record/entry'
import { Problem } from '../../../core/problem'

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
  const said = (...rows: string[]) => Object.fromEntries(rows.map((r) => [r, { by: 'x', photo: null }]))
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
    methodReason: null,
    confirmed: said('restraint', 'filled', 'sensor', 'exclusion', 'witness'),
    witness: witnessOf([]),
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
    ['filled', { confirmed: said('restraint', 'sensor', 'exclusion', 'witness') }, /To be confirmed/],
    ['witness', { confirmed: said('restraint', 'filled', 'sensor', 'exclusion') }, /Not invited yet/],
  ])('%s stays open', (key, more, sentence) => {
    const rows = open(more)
    expect(rows.map((r) => r.key)).toEqual([key])
    expect(rows[0]!.sentence).toMatch(sentence)
  })

  describe('the witness', () => {
    const HOUR = 3_600_000
    const word = (kind: Entry['kind'], at: number, payload: Record<string, unknown>): Entry => ({
      ...{ id: `${kind} ${at}`, kind, step: 'witness', payload, person: 'p', role: 'inspector' },
      ...{ crew: null, instrument: null, recordedAt: at },
    })
    const invited = (hoursBefore: number, ...more: Entry[]) =>
      witnessOf([
        word('invitation', 100 * HOUR - hoursBefore * HOUR, { for: new Date(100 * HOUR).toISOString() }),
        ...more,
      ])
    const confirmed = said('restraint', 'filled', 'sensor', 'exclusion')
    const row = (witness: ReadyFacts['witness'], more = confirmed) =>
      readyList(facts({ confirmed: more, witness })).find((r) => r.key === 'witness')!
    it.each([
      ['told with the notice that is asked', invited(2), 'met'],
      ['told shorter before', invited(1), 'open'],
      ['told shorter before, but coming', invited(1, word('reply', 100 * HOUR, { accepts: true })), 'met'],
      [
        'who does not come in spite of the notice',
        invited(3, word('reply', 99 * HOUR, { accepts: false })),
        'met',
      ],
    ])('%s', (_what, witness, state) => expect(row(witness).state).toBe(state))
    it('told shorter before is let pass by whoever confirms it', () => {
      expect(row(invited(1)).confirmable).toBe(true)
      expect(row(invited(1), { ...confirmed, ...said('witness') }).state).toBe('met')
    })
    it('is said with how long before', () => expect(row(invited(2)).sentence).toContain('Told 2 h'))
  })
  it('a method for another material is met by an engineer’s reason alone', () => {
    const other = { material: 'ductile iron', methodReason: 'The liner of polyethylene is tested.' }
    const row = readyList(facts(other)).find((r) => r.key === 'method')!
    expect(row).toMatchObject({
      state: 'met',
      sentence: expect.stringContaining('The liner of polyethylene'),
    })
  })
  it('a row that was confirmed with a picture has it', () => {
    const confirmed = { ...facts().confirmed, filled: { by: 'Ines', photo: 'p1' } }
    const rows = readyList(facts({ confirmed }))
    expect(rows.find((r) => r.key === 'filled')).toMatchObject({
      photo: 'p1',
      sentence: 'Confirmed by Ines.',
    })
    expect(rows.find((r) => r.key === 'sensor')!.photo).toBeNull()
  })
})
