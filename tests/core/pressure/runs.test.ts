import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { afterTest, answersAfter } from '../../../core/pressure/after'
import { contactOf } from '../../../core/pressure/contact'
import { checkMark, eventsOf, marksNow, marksOf, type MarkKind } from '../../../core/pressure/marks'
import { findTestMethod } from '../../../core/pressure/methods/registry'
import { roomsOf } from '../../../core/pressure/outlook'
import { sayParameters } from '../../../core/pressure/parameters'
import { runsOf } from '../../../core/pressure/runs'
import { thin } from '../../../core/pressure/thin'
import type { Entry } from '../../../core/record/entry'

const T0 = Date.parse('2026-03-09T06:00:00Z')
let n = 0
const entry = (kind: Entry['kind'], payload: Record<string, unknown> = {}, step: string | null = null) =>
  ({
    ...{ id: `00000000-0000-7000-8000-${String(++n).padStart(12, '0')}`, kind, step, payload },
    ...{ recordedAt: T0 + n * 1000, person: 'ines', role: 'inspector' },
  }) as unknown as Entry
const mark = (kind: MarkKind, second: number) =>
  entry('event', { kind, at: new Date(T0 + second * 1000).toISOString() })

describe('the runs of a pack', () => {
  const first = [entry('start', { open: ['embedment'], reason: 'Programme' }), mark('vented', 10)]
  const failed = [
    entry('run', { file: 'f1', map: { pressureUnit: 'bar' } }),
    entry('evaluation', { verdict: 'reject', sentence: 'Not accepted.' }),
  ]
  const second = [entry('start', { open: [], since: 'The gland was tightened.' }), mark('paused', 600)]
  it('are kept one beside the other, each with its log, marks and what was done before it', () => {
    const runs = runsOf([...first, ...failed, ...second])
    expect(runs).toMatchObject([
      { open: ['embedment'], reason: 'Programme', log: { file: 'f1', map: { pressureUnit: 'bar' } } },
      { since: 'The gland was tightened.', log: null, evaluation: null },
    ])
    expect(runs.map((r) => r.marks.map((m) => m.kind))).toEqual([['vented'], ['paused']])
    expect(runs[0]!.evaluation?.verdict).toBe('reject')
  })
  it('say who started them and why, who stood there, and what was signed', () => {
    const start = entry('start', { reason: '' })
    const came = entry('attendance', { present: true })
    const stayed = entry('attendance', { present: false })
    const signed = entry('signature', { name: 'Ines', image: 'png', digest: 'd1' })
    const log = entry('run', { file: 'f1', reason: 'The hole is a lunch.' })
    const [run] = runsOf([start, came, stayed, signed, log])
    expect(run).toEqual({
      ...{ startedAt: start.recordedAt, startedBy: 'ines', open: [], reason: null, since: null, marks: [] },
      ...{ evaluation: null, log: { file: 'f1', map: null, reason: 'The hole is a lunch.', by: 'ines' } },
      present: [{ person: 'ines', at: came.recordedAt }],
      signatures: [{ name: 'Ines', image: 'png', digest: 'd1', role: 'inspector', at: signed.recordedAt }],
    })
    expect(runsOf([entry('start', { reason: 7 })])[0]!.reason).toBeNull()
  })
  it('of one that never started there are none', () => expect(runsOf([entry('confirmation')])).toEqual([]))
  it('a mark that was struck is none', () => {
    const wrong = mark('paused', 20)
    const strike = entry('correction', { strikes: wrong.id, reason: 'x' })
    expect(marksOf([...first, wrong, strike]).map((m) => m.kind)).toEqual(['vented'])
  })
  it('marks are events of the log, but for what only people do', () => {
    const marks = marksOf([...first, mark('leak-found', 90), mark('pump-off', 60)])
    expect(eventsOf(marks, T0 + 5000)).toEqual([
      { t: 5, kind: 'vented' },
      { t: 55, kind: 'pump-off' },
    ])
  })
})

describe('what can be marked next', () => {
  const next = (method: string, ...kinds: MarkKind[]) =>
    marksNow(
      findTestMethod(method),
      kinds.map((kind, i) => ({ id: String(i), kind, at: i, by: '' })),
    )
  it.each<[string, string, MarkKind[], MarkKind[], MarkKind[]]>([
    [
      'a paused test only goes on or ends',
      'hydro-drop',
      ['paused'],
      ['resumed', 'end'],
      ['paused', 'pump-on'],
    ],
    ['a pump that is on is put off', 'hydro-drop', ['pump-on'], ['pump-off'], ['pump-on']],
    ['only polyethylene is lowered', 'hydro-drop', [], ['reached'], ['lowering']],
    ['lowering comes before lowered', 'pe-three-phase', [], ['lowering'], ['lowered']],
    ['and lowered once', 'pe-expansion', ['lowering', 'lowered'], ['paused'], ['lowering', 'lowered']],
    ['air needs no pump mark', 'low-pressure-air', [], ['reached', 'paused'], ['pump-on', 'vented']],
  ])('%s', (_what, method, marks, there, absent) => {
    const can = next(method, ...marks)
    expect(can).toEqual(expect.arrayContaining(there))
    for (const kind of absent) expect(can).not.toContain(kind)
  })
  it('nothing comes after the end', () => expect(next('hydro-drop', 'end')).toEqual([]))
  it.each([
    ['in the run', 60_000, null],
    ['an hour ahead', 3_700_000, 'still to come'],
    ['an hour before', -3_600_000, 'before the test was started'],
  ])('a time %s', (_what, at, says) => {
    const no = checkMark(findTestMethod('hydro-drop'), [], 'reached', T0 + at, T0, T0 + 100_000)
    if (says) expect(no).toContain(says)
    else expect(no).toBeNull()
  })
})

describe('after a test', () => {
  it('the last word stands, and a new run asks anew', () => {
    const said = [
      entry('start'),
      entry('choice', { answer: 'filled' }, 'left'),
      entry('choice', { answer: 'emptied' }, 'left'),
    ]
    const left = (entries: Entry[]) => afterTest(entries, false).find((r) => r.key === 'left')!.answer
    expect(left(said)).toBe('emptied')
    expect(left([...said, entry('start')])).toBeNull()
  })
  it('of air nothing is left in the line', () => {
    expect(afterTest([], true).map((r) => r.key)).toEqual(['depressurised', 'vented'])
    expect(answersAfter('left', 'filled', true)).toBe(false)
    expect(answersAfter('left', 'filled', false)).toBe(true)
    expect(answersAfter('left', 'yes', false)).toBe(false)
  })
})

describe('whether a logger still sends', () => {
  const every = (seconds: number, count = 10) => Array.from({ length: count }, (_v, i) => i * seconds * 1000)
  it.each([
    ['nothing ever came', [], 0, 'none'],
    ['one a second, 8 s ago', every(1), 17_000, 'live'],
    ['one a second, 11 s ago', every(1), 20_001, 'lost'],
    ['one a minute, 4 min ago', every(60), 540_000 + 240_000, 'live'],
    ['one a minute, 6 min ago', every(60), 540_000 + 360_000, 'lost'],
  ] as const)('%s', (_what, arrivals, now, state) => expect(contactOf(arrivals, now).state).toBe(state))
})

describe('what it takes to pass', () => {
  const drop = findTestMethod('hydro-drop')
  const room = (value: number | null, limit: number, uncertainty: number) =>
    roomsOf(drop, { rate: { value, unit: 'Pa/h', limit, uncertainty } }, 'hold')
  it('is the limit less what is there and what is in doubt', () => {
    expect(room(5000, 20_000, 3000)).toMatchObject([{ way: 'grow', by: 12_000 }])
    expect(room(19_000, 20_000, 3000)[0]!.by).toBeLessThan(0)
  })
  it('nothing is said of a number that is not there yet, of one without room, or of a phase that is over', () => {
    expect(room(null, 20_000, 0)).toEqual([])
    expect(roomsOf(drop, { added: { value: 0, unit: 'L', limit: 0 } }, 'hold')).toEqual([])
    const kept = { lowest: { value: 12e5, unit: 'Pa', limit: 11e5 } }
    const phases = findTestMethod('pe-three-phase')
    expect(roomsOf(phases, kept, 'creep')).toEqual([])
    expect(roomsOf(phases, kept, 'keep')).toMatchObject([{ way: 'fall', by: 1e5 }])
  })
})

describe('the parameters of a test in words', () => {
  it('say what was given, what is by default, and what is wrong or missing', () => {
    const said = Object.fromEntries(
      sayParameters(findTestMethod('hydro-drop'), { testPressure: 15e5, maxRate: 'fast' }).map((p) => [
        p.key,
        p,
      ]),
    )
    expect(said.testPressure).toMatchObject({ text: '1500 kPa', byDefault: false })
    expect(said.duration).toMatchObject({ text: '1 h', byDefault: true })
    expect(said.maxRate!.text).toMatch(/maxRate/)
    expect(sayParameters(findTestMethod('hydro-drop'), {})[0]!.text).toMatch(/missing|given/i)
  })
  it('name the pipes of a gravity reach', () => {
    const pipes = [{ diameter: 0.6, length: 20 }]
    const said = sayParameters(findTestMethod('low-pressure-air'), { pipes, groundwater: 0.4 })
    expect(said.find((p) => p.key === 'pipes')!.text).toBe('600 mm × 20 m')
  })
})

it('a thinned trace keeps its lowest and highest, in order of time', () =>
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 2_000_000 }), { minLength: 1, maxLength: 400 }),
      fc.integer({ min: 4, max: 60 }),
      (pressures, most) => {
        const samples = pressures.map((pressure, t) => ({ t, pressure, pipe: null, air: null, makeup: null }))
        const few = thin(samples, most)
        expect(few.length).toBeLessThanOrEqual(
          Math.max(most, samples.length > most ? most + 2 : samples.length),
        )
        const of = (list: typeof few, f: (...v: number[]) => number) =>
          list.reduce((m, s) => f(m, s.pressure), list[0]!.pressure)
        expect([of(few, Math.min), of(few, Math.max)]).toEqual([of(samples, Math.min), of(samples, Math.max)])
        few.slice(1).forEach((s, i) => expect(s.t).toBeGreaterThan(few[i]!.t))
      },
    ),
  ))
