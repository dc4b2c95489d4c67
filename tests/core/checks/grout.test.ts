import { describe, expect, it } from 'vitest'
import { GRAVITY } from '../../../core/calculators/lifting'
import type { Entry } from '../../../core/record/entry'
import { entry } from '../support'
import { reachOf } from './reach'

const check = { kind: 'grout', limit: '60 kPa' }
const pumped = (pressure: number, minute: number, more: object = {}) =>
  entry(
    'grout',
    'grout',
    {
      rows: [
        { t: 0, pressure: 1000, volume: 0 },
        { t: 60, pressure, volume: 0.3 },
      ],
      ...more,
    },
    minute,
  )
const full = (minute: number, answer = 'yes') => entry('grout', 'confirmation', { answer }, minute)
const judged = (entries: Entry[], more: object = {}) =>
  reachOf({ grout: { ...check, ...more } }).judge(entries).steps[0]!

describe('the pressure at the invert', () => {
  const head = 1800 * GRAVITY
  it.each<[number, number, string[]]>([
    [60_000, 0, []],
    [60_001, 0, ['over']],
    [60_000 + 2 * head, 2, []],
    [60_001 + 2 * head, 2, ['over']],
    [60_000 - 2 * head, -2, []],
    [60_001 - 2 * head, -2, ['over']],
  ])('%f Pa at the gauge, invert %i m above it: %j', (gauge, above, want) =>
    expect(judged([pumped(gauge, 1)], { head: above }).faults.map((f) => f.code)).toEqual(want),
  )
  it('near the limit is a caution, no verdict', () => {
    const found = judged([pumped(55_000, 1), full(2)])
    expect([found.state, found.sentence]).toEqual(['accepted', expect.stringContaining('Caution')])
    expect(judged([pumped(53_000, 1), full(2)]).sentence).not.toContain('Caution')
  })
})

describe('the annulus is full', () => {
  it.each<[string, Entry[], string]>([
    ['when somebody says so after the last of the log', [pumped(1, 1), full(2)], 'accepted'],
    ['not before', [full(1), pumped(1, 2)], 'in-work'],
    ['not once it is taken back', [pumped(1, 1), full(2), full(3, 'no')], 'in-work'],
    ['not while nothing was pumped', [full(1)], 'not-started'],
    ['nor when it went on afterwards', [pumped(1, 1), full(2), pumped(2, 3)], 'in-work'],
  ])('%s', (_what, entries, want) => expect(judged(entries).state).toBe(want))
  it('a struck reading rejects no more', () => {
    const wrong = pumped(90_000, 1)
    const strike = entry('grout', 'correction', { strikes: wrong.id, reason: 'typed wrong' }, 2)
    expect(judged([wrong, pumped(1, 1), full(3)]).state).toBe('rejected')
    expect(judged([wrong, strike, pumped(1, 1), full(3)]).state).toBe('accepted')
  })
  it('without the limit nothing can be worked out', () => {
    const unknown = reachOf({ grout: { kind: 'grout', limit: 'bears * 1 Pa' } }, { bears: NaN })
    expect(unknown.judge([pumped(1, 1), full(2)]).steps[0]!.state).toBe('blocked')
  })
})
