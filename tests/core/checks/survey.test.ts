import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Entry } from '../../../core/record/entry'
import { entry, T0, yes } from '../support'
import { reachOf } from './reach'

const HOUR = 60
const filled = { kind: 'confirm', question: 'Filled?' }
const check = { kind: 'survey', base: '600 mm', from: 'filled' }
const reach = (more: object = {}) => reachOf({ filled, survey: { ...check, ...more } })
const rows = (...list: [station: number, vertical: number][]) =>
  list.map(([station, vertical]) => ({ station, vertical }))
const measured = (list: ReturnType<typeof rows>, minute = 13 * HOUR, more: object = {}) =>
  entry('survey', 'survey', { rows: list, ...more }, minute)
const judged = (entries: Entry[], more: object = {}) =>
  reach(more).judge([yes('filled', 0), ...entries]).steps[1]!
const codes = (entries: Entry[], more: object = {}) => judged(entries, more).faults.map((f) => f.code)

describe('one station', () => {
  it.each<[number, number, string[]]>([
    [0.57, 0, []],
    [0.5699, 0, ['deflection']],
    [0.62, 0, []],
    [0.5688, 0.002, ['too-close']],
    [0.5719, 0.002, ['too-close']],
    [0.572, 0.002, []],
    [0.567, 0.002, ['deflection']],
  ])('%f m of 0.6 m, each ± %f m: %j', (vertical, uncertainty, want) =>
    expect(codes([measured(rows([3, vertical]))], { uncertainty })).toEqual(want),
  )
  it('against a limit of the procedure’s own', () =>
    expect(codes([measured(rows([3, 0.565]))], { limit: '7.5 %' })).toEqual([]))
})

describe('the night’s rest', () => {
  it.each<[number, string]>([
    [11.99, 'rejected'],
    [12, 'accepted'],
  ])('%f h after the fill: %s', (hours, want) =>
    expect(judged([measured(rows([3, 0.6]), hours * HOUR)]).state).toBe(want),
  )
  it('has not begun while the fill is not accepted', () => {
    const no = entry('filled', 'confirmation', { answer: 'no' }, 0)
    const { steps } = reach().judge([no, measured(rows([3, 0.6]))])
    expect(steps[1]!.faults.map((f) => f.code)).toEqual(['too-early'])
  })
  it('counts for a replacement by its own time', () => {
    const early = measured(rows([3, 0.6]), HOUR)
    const again = measured(rows([3, 0.59]), 14 * HOUR, { replaces: early.id })
    expect([judged([early]).state, judged([early, again]).state]).toEqual(['rejected', 'accepted'])
  })
  it('is proved by nothing that was recorded late, until an inspector says so', () => {
    const late = entry('survey', 'survey', { rows: rows([3, 0.6]) }, 13 * HOUR, { late: true })
    const word = entry('survey', 'decision', { verdict: 'accept', reason: 'I was there' }, 14 * HOUR, {
      person: 'ines',
      role: 'inspector',
    })
    expect([judged([late]).state, judged([late, word]).state]).toEqual(['held', 'accepted'])
  })
  it.each([
    [11.9, 'waiting', 1],
    [12.1, 'not-started', 1],
  ])('%f h after the fill it is %s', (hours, state, clocks) => {
    const found = reach().judge([yes('filled', 0)], {}, T0 + hours * 3_600_000)
    expect([found.steps[1]!.state, found.clocks.length]).toEqual([state, clocks])
    expect(found.clocks[0]).toMatchObject({ step: 'survey', until: T0 + 12 * 3_600_000 })
  })
})

describe('a station measured again', () => {
  const bad = measured(rows([3, 0.55]), 13 * HOUR)
  const at = (station: number, more: object = {}) => measured(rows([station, 0.59]), 14 * HOUR, more)
  it.each<[string, Entry, string]>([
    ['with a reason', at(3, { reason: 'gauge askew' }), 'accepted'],
    ['without', at(3), 'rejected'],
    ['5 cm along, with a reason', at(3.05, { reason: 'gauge askew' }), 'accepted'],
    ['6 cm along is another station', at(3.06, { reason: 'gauge askew' }), 'rejected'],
  ])('%s', (_what, again, want) => expect(judged([bad, again]).state).toBe(want))
  it('takes the place of one that conforms without a reason', () => {
    const list = [measured(rows([3, 0.59], [9, 0.59])), measured(rows([9.02, 0.58], [15, 0.6]), 14 * HOUR)]
    expect(judged(list, { minPoints: 4 }).state).toBe('in-work')
    expect(judged(list, { minPoints: 3 }).state).toBe('accepted')
  })
})

it('the order of arrival says nothing', () => {
  const one = fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 540, max: 620 }), fc.boolean())
  fc.assert(
    fc.property(fc.array(one, { maxLength: 8 }), fc.nat(7), (list, turn) => {
      const made = list.map(([station, mm, reason], i) =>
        measured(rows([station / 10, mm / 1000]), 13 * HOUR + i, reason ? { reason: 'again' } : {}),
      )
      const { state, faults } = judged(made)
      const turned = judged([...made.slice(turn), ...made.slice(0, turn)])
      expect([turned.state, turned.faults]).toEqual([state, faults])
    }),
  )
})
it('too few stations wait before one too close is called', () =>
  expect(judged([measured(rows([3, 0.5688]))], { uncertainty: 0.002, minPoints: 2 }).state).toBe('in-work'))
it('without the diameter nothing can be worked out', () => {
  const unknown = reachOf({ filled, survey: { ...check, base: 'bore * 1 m' } }, { bore: NaN })
  expect(unknown.judge([yes('filled', 0), measured(rows([3, 0.6]))]).steps[1]!.state).toBe('blocked')
})
