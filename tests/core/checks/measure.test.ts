import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { explainFinding, judgeReadings } from '../../../core/checks/readings'
import { loadProcedure } from '../../../core/procedure/load'
import { readFacts } from '../../../core/procedure/facts'
import type { Entry } from '../../../core/record/entry'
import { entry, read, T0, yes } from '../support'

/** A procedure with one step a rule, so that each rule is seen alone. */
const source = `
key: rules
revision: A
title: Rules
system: rules
material: any
basis: Made for tests.
cautions: [ Local rules come first. ]
facts:
  - { key: pipe.od, title: Outside diameter, dimension: length, unit: mm, from: pipe, min: 10 mm, max: 3 m, example: 400 mm }
options: []
tables: []
drawings: []
stages:
  - key: all
    title: All
    steps:
      - { key: each, title: Each, instruction: I., onFailure: { action: rework, words: W. },
          check: { kind: measure, quantity: length, unit: mm, readings: 3,
          limits: [ { of: each, title: Depth, min: 5 mm, max: 10 mm } ] } }
      - { key: spread, title: Spread, instruction: I., onFailure: { action: rework, words: W. },
          check: { kind: measure, quantity: length, unit: mm, readings: 3,
          limits: [ { of: range, title: Difference, max: 3 mm } ] } }
      - { key: middle, title: Middle, instruction: I., onFailure: { action: rework, words: W. },
          check: { kind: measure, quantity: length, unit: mm, readings: 4, uncertainty: 0.5 mm,
          limits: [ { of: mean, title: Mean, max: 1 % * pipe.od } ] } }
      - { key: start, title: Start, instruction: I., onFailure: { action: rework, words: W. },
          check: { kind: confirm, question: Started? } }
      - { key: window, title: Window, instruction: I., onFailure: { action: rework, words: W. },
          check: { kind: clock, from: start, earliest: 10 min, latest: 30 min, action: Push home } }
`
const compiled = loadProcedure(source)
const facts = readFacts(compiled.procedure, { 'pipe.od': '400 mm' })
const stepOf = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!
const slots = [0.4]
const found = (key: string, values: number[], uncertainty = 0, rule: 'guarded' | 'simple' = 'guarded') =>
  judgeReadings(stepOf(key), slots, values, uncertainty, rule)[0]!
const at = (key: string, entries: Entry[], minute = 500) =>
  judge(compiled, facts, entries, T0 + minute * 60_000).steps.find((s) => s.key === key)!
const readings = fc.array(fc.double({ min: 0, max: 0.02, noNaN: true }), { minLength: 3, maxLength: 3 })

describe('readings against a limit on each', () => {
  it('the worst of them decides, wherever it stands', () => {
    for (const values of [
      [0.004, 0.007, 0.008],
      [0.007, 0.004, 0.008],
      [0.007, 0.008, 0.004],
    ])
      expect(found('each', values)).toMatchObject({ value: 0.004, verdict: 'reject' })
    expect(found('each', [0.007, 0.0099, 0.008])).toMatchObject({ value: 0.0099, verdict: 'accept' })
  })
  it('is accepted exactly when every reading is', () =>
    fc.assert(
      fc.property(readings, (values) => {
        expect(found('each', values).verdict === 'accept').toBe(
          values.every((v) => v >= 0.005 - 1e-12 && v <= 0.01 + 1e-12),
        )
      }),
    ))
})

describe('how sure a result is', () => {
  it('one reading is as sure as its instrument', () =>
    expect(found('each', [0.007, 0.007, 0.007], 0.0005).uncertainty).toBe(0.0005))
  it('a mean is called as sure as one reading: readings of one tool err together', () =>
    expect(found('middle', [0.001, 0.002, 0.003, 0.004], 0.0005).uncertainty).toBe(0.0005))
  it('a difference of two readings is less sure by the root of two', () =>
    expect(found('spread', [0.001, 0.005, 0.009], 0.0005).uncertainty).toBeCloseTo(0.0005 * Math.SQRT2, 9))
  it('a coarser tool never turns a yes into a no', () =>
    fc.assert(
      fc.property(
        readings,
        fc.double({ min: 0, max: 0.002, noNaN: true }),
        fc.double({ min: 0, max: 0.002, noNaN: true }),
        (values, a, b) => {
          for (const key of ['each', 'spread']) {
            const [fine, coarse] = [
              found(key, values, Math.min(a, b)).verdict,
              found(key, values, Math.max(a, b)).verdict,
            ]
            expect([fine, 'too-close']).toContain(coarse)
          }
        },
      ),
    ))
  it('where the limit alone decides nothing is too close', () =>
    fc.assert(
      fc.property(readings, fc.double({ min: 0, max: 0.002, noNaN: true }), (values, u) => {
        expect(found('each', values, u, 'simple').verdict).not.toBe('too-close')
      }),
    ))
})

describe('what is said of it', () => {
  it.each([
    [[0.007, 0.007, 0.007], 0, 'Depth 7 mm, allowed 5 mm to 10 mm.'],
    [[0.007, 0.012, 0.007], 0, 'Depth 12 mm is outside: allowed 5 mm to 10 mm.'],
    [
      [0.007, 0.0098, 0.007],
      0.0005,
      'Depth 9.8 mm is too close to the limit (5 mm to 10 mm) to call: it is known to ±\u00a00.5 mm. ' +
        'So measure again, or with a better tool.',
    ],
  ])('%j known to %f', (values, u, sentence) =>
    expect(explainFinding(found('each', values, u))).toBe(sentence),
  )
  it('too few readings are counted', () =>
    expect(at('each', [read('each', [0.007, 0.008], 1)])).toMatchObject({
      state: 'not-started',
      sentence: '2 of 3 readings taken.',
    }))
  it('the limit follows from the pipe', () =>
    expect(at('middle', []).limits[0]).toMatchObject({ max: 0.004, title: 'Mean' }))
})

describe('a clock with a window', () => {
  const done = (minute: number, answer = 'yes') =>
    at('window', [yes('start', 0), entry('window', 'clock', { answer }, minute)])
  it.each([
    [9, 'rejected', /Done 1 min too early/],
    [10, 'accepted', /in time/],
    [30, 'accepted', /in time/],
    [31.5, 'rejected', /Done 1 min 30 s too late/],
  ])('at %f min: %s', (minute, state, sentence) => {
    expect(done(minute).state).toBe(state)
    expect(done(minute).sentence).toMatch(sentence)
  })
  it.each([
    [5, 'waiting'],
    [10, 'not-started'],
    [29, 'not-started'],
    [31, 'overdue'],
  ])('nothing recorded after %i min: %s', (minute, state) =>
    expect(at('window', [yes('start', 0)], minute).state).toBe(state),
  )
  it('failed is failed, in time or not', () => expect(done(15, 'no').state).toBe('rejected'))
  it('without its start nothing is in time', () =>
    expect(at('window', [entry('window', 'clock', { answer: 'yes' }, 15)]).state).not.toBe('accepted'))
  it('a start that is struck stops it', () => {
    const start = yes('start', 0)
    expect(
      at('window', [start, entry('start', 'correction', { strikes: start.id, reason: 'false start' }, 2)], 15)
        .state,
    ).not.toBe('waiting')
  })
  it('started again, it runs from the second start', () =>
    expect(at('window', [yes('start', 0), yes('start', 20)], 25)).toMatchObject({
      state: 'waiting',
      until: T0 + 30 * 60_000,
    }))
})
