import { afterEach, describe, expect, it } from 'vitest'
import { evaluateTest, requestFor } from '../../../core/pressure/evaluate'
import type { Sample } from '../../../core/pressure/log'
import { describeTest, evaluateLog, sayValue } from '../../../core/pressure/report'
import { showEverythingIn } from '../../../core/quantity/site-units'
import { refusal } from '../refusal'

/** A test in words: each number in the unit a person reads, its limit, its doubt, what it may still do. */
afterEach(() => showEverythingIn('as-written'))

describe('a number', () => {
  it.each<[number, string, string]>([
    [1_234_567, 'Pa', '1235 kPa'],
    [12_345, 'Pa/h', '12.3 kPa/h'],
    [5400, 's', '1 h 30 min'],
    [0.01234, 'm', '12.3 mm'],
    [12_345, 'N', '12.3 kN'],
    [1.234, 'L/h', '1.23 L/h'],
    [0.05, 'L/h', '0.05 L/h'],
    [0.0499, 'L/h', '49.9 mL/h'],
    [-0.0499, 'L/h', '−49.9 mL/h'],
    [0.01234, '', '1.23 %'],
    [12.345, '°C', '12.3 °C'],
    [12.345, 'L', '12.3 L'],
  ])('%s %s is %s', (value, unit, text) => expect(sayValue(value, unit)).toBe(text))
  it('a small leak stays in the unit of a site that knows no millilitres', () => {
    showEverythingIn('us')
    expect(sayValue(0.01, 'L/h')).not.toMatch(/mL/)
  })
})

const section = { length: 640, insideDiameter: 0.2545, wall: 0.0063, modulus: 207e9 }
const rows = (...kPa: number[]): Sample[] =>
  kPa.map((v, i) => ({ t: i * 300, pressure: v * 1e3, pipe: null, air: null, makeup: null }))
const test = {
  ...{ method: 'hydro-drop', section, gauge: { uncertainty: 500 } },
  parameters: { testPressure: 1000e3, settle: 300, duration: 1200, maxRate: 12e3 },
}
const held = rows(1000, 1000, 999.8, 999.6, 999.4, 999.2)

describe('an evaluation', () => {
  const told = evaluateLog(test, held)
  it('names its phases and numbers, each with its limit, what it is made of and how sure it is', () => {
    expect(told).toMatchObject({ method: 'hydro-drop', verdict: 'accept', needed: null, notes: [] })
    expect(told.phases).toEqual([
      { key: 'settle', title: expect.stringMatching(/./), from: 0, to: 300 },
      { key: 'hold', title: 'Hold', from: 300, to: 1500 },
    ])
    const rate = told.numbers.find((n) => n.key === 'rate')!
    expect(rate).toMatchObject({ title: 'Fall in an hour, corrected', text: '2.4 kPa/h', verdict: 'accept' })
    expect(rate.formula).toMatch(/^at most 12 kPa\/h; median of slopes/)
    expect(told.numbers.find((n) => n.key === 'drop')).toMatchObject({
      ...{ text: '0.8 kPa', formula: 'first − last of the hold', verdict: null },
    })
  })
  it('leaves out what could not be worked out', () => {
    expect(told.numbers.map((n) => n.key)).not.toContain('temperatureEffect')
  })
  it('says what it rests on beside its verdict', () =>
    expect(told.sentence).toBe(
      'Every number is within its limit. No temperature was read: nothing is taken out for it.',
    ))
  it('while it runs tells what may still come; once it is over no more', () => {
    expect(told).not.toHaveProperty('outlook')
    const running = evaluateLog(test, held.slice(0, 5))
    expect(running.verdict).toBe('incomplete')
    expect(running.outlook!.some((s) => s.startsWith('Fall in an hour, corrected: may still '))).toBe(true)
    const lost = evaluateLog(test, rows(1000, 1000, 980, 960, 940))
    expect(lost.outlook).toContain('Fall in an hour, corrected: by now not accepted beyond doubt.')
  })
  it('of a log with rows left out says so', () => {
    const twice = evaluateLog(test, [...held.slice(0, 3), held[2]!, ...held.slice(3)])
    expect(twice.notes).toMatchObject([
      { kind: 'duplicate', count: 1, sentence: 'Rows with a time already taken were left out.' },
    ])
  })
  it('needs two rows', () => {
    expect(refusal(() => evaluateLog(test, held.slice(0, 1)))).toEqual(['bad-rows', 'rows'])
    expect(evaluateLog(test, held.slice(0, 2)).verdict).toBe('incomplete')
  })
})

describe('the sentence of a verdict', () => {
  const sentence = (log: Sample[], more: object = {}) =>
    evaluateTest({ ...requestFor({ ...test, ...more }), rows: log }).sentence
  it('names the numbers that decided, as they are called', () => {
    expect(sentence(rows(1000, 1000, 995, 990, 985, 980))).toBe('Not accepted: fall in an hour, corrected.')
    expect(sentence(held, { gauge: { uncertainty: 500, resolution: 5000 } })).toBe(
      'Too close to call: fall in an hour, corrected. Hold longer, or repeat with a better gauge.',
    )
    expect(sentence(held.slice(0, 2))).toBe('It settles.')
    expect(sentence(held.slice(0, 5))).toBe('It has not run out yet.')
  })
  it('by the simple rule doubts nothing', () =>
    expect(sentence(held, { rule: 'simple', gauge: { uncertainty: 500, resolution: 5000 } })).toBe(
      'Every number is within its limit.',
    ))
})

describe('what a log is held against', () => {
  it.each<[string, Record<string, unknown>, string, string]>([
    ['a key that nobody knows', { colour: 'red' }, 'unknown-key', 'colour'],
    ['a rule that nobody knows', { rule: 'kind' }, 'unknown-choice', 'rule'],
    ['parameters that are a list', { parameters: [1] }, 'bad-input', 'parameters'],
    ['parameters that are a word', { parameters: 'all' }, 'bad-input', 'parameters'],
    ['no parameters', { parameters: null }, 'missing', 'testPressure'],
  ])('with %s is refused', (_what, more, code, field) =>
    expect(refusal(() => requestFor({ ...test, ...more }))).toEqual([code, field]),
  )
  it('is guarded where nobody says otherwise', () => {
    expect(requestFor(test).rule).toBe('guarded')
    expect(requestFor({ ...test, rule: 'guarded' }).rule).toBe('guarded')
    expect(requestFor({ ...test, rule: 'simple' }).rule).toBe('simple')
  })
})

describe('a hose under proof for two minutes', () => {
  const parameters = { workingPressure: 500e3, factor: 2, duration: 120, maxMovement: 0.003 }
  const hose = (more: object, log = rows(1000, 1000)) =>
    describeTest(
      evaluateTest({
        ...requestFor({
          ...{ method: 'hose-proof', parameters: { ...parameters, ...more }, gauge: { uncertainty: 500 } },
          section: {},
        }),
        rows: log,
      }),
    )
  it('is judged once somebody has said how far its mark has moved, and whether it leaked', () => {
    for (const more of [{}, { movement: 0.002 }, { leakSeen: false }])
      expect(hose(more)).toMatchObject({
        ...{ verdict: 'incomplete', needed: null },
        sentence: 'Say how far the mark has moved, and whether a leak was seen.',
      })
    expect(hose({ movement: 0.003, leakSeen: false }, rows(1001, 1001)).verdict).toBe('accept')
  })
  it.each<[string, object, string]>([
    ['a mark that moved too far', { movement: 0.0031, leakSeen: false }, 'movement of the mark'],
    ['a leak', { movement: 0.001, leakSeen: true }, 'leak seen'],
  ])('%s rejects it', (_what, more, named) =>
    expect(hose(more, rows(1001, 1001))).toMatchObject({
      ...{ verdict: 'reject', sentence: `Not accepted: ${named}.` },
    }),
  )
  it('needs its time', () => {
    const early = hose(
      { movement: 0.001, leakSeen: false },
      rows(1001, 1001).map((r) => ({ ...r, t: r.t / 5 })),
    )
    expect(early).toMatchObject({ verdict: 'incomplete', needed: 60, phases: [{ from: 0, to: 60 }] })
  })
  it('says yes or no of a leak', () =>
    expect(
      hose({ movement: 0.001, leakSeen: true }, rows(1001, 1001)).numbers.find((n) => n.key === 'leakSeen')!
        .text,
    ).toBe('yes'))
})
