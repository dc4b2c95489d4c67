import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clockMoved,
  DRIFT,
  lateness,
  lateReasons,
  lateSentences,
  MOVED,
  ON_ITS_WAY,
  openedWhen,
  runAfter,
  type DeviceRun,
} from '../../../core/record/late'
import { waitAfter } from '../../../core/record/waiting'

const arrival = 1_800_000_000_000
const HOUR = 3_600_000
const entry = (more: object = {}) => ({
  recordedAt: arrival - HOUR,
  stampAt: arrival - 2 * HOUR,
  number: 1,
  ...more,
})

describe('a time is believed', () => {
  it.each([
    ['between stamp and arrival', entry(), null, null, null],
    [
      'at the very stamp, but for the drift of a clock',
      entry({ recordedAt: arrival - 2 * HOUR - DRIFT }),
      null,
      null,
      null,
    ],
    ['not before it', entry({ recordedAt: arrival - 2 * HOUR - DRIFT - 1 }), null, null, 'before-contact'],
    [
      'when it follows the number before',
      entry({ number: 8 }),
      { lastNumber: 7, lastRecordedAt: arrival - 2 * HOUR },
      null,
      null,
    ],
    ['not after a gap', entry({ number: 9 }), { lastNumber: 7, lastRecordedAt: 0 }, null, 'gap'],
    [
      'not with a number that was used',
      entry({ number: 7 }),
      { lastNumber: 7, lastRecordedAt: 0 },
      null,
      'gap',
    ],
    ['not when a device begins anew in the middle', entry({ number: 2 }), null, null, 'gap'],
    [
      'not before what the device recorded already',
      entry({ number: 8 }),
      { lastNumber: 7, lastRecordedAt: arrival - HOUR + DRIFT + 1 },
      null,
      'out-of-order',
    ],
    [
      'at the same moment',
      entry({ number: 8 }),
      { lastNumber: 7, lastRecordedAt: arrival - HOUR },
      null,
      null,
    ],
    ['not when the clock was moved meanwhile', entry({ moved: true }), null, null, 'clock-moved'],
    ['not before the subject was opened', entry(), null, arrival - HOUR + DRIFT + 1, 'before-opening'],
    ['from the moment it was opened', entry(), null, arrival - HOUR, null],
    ['and a drift before that', entry(), null, arrival - HOUR + DRIFT, null],
    [
      'and a drift before what the device recorded already',
      entry({ number: 8 }),
      { lastNumber: 7, lastRecordedAt: arrival - HOUR + DRIFT },
      null,
      null,
    ],
    [
      'without a stamp while on its way',
      entry({ stampAt: null, recordedAt: arrival - ON_ITS_WAY }),
      null,
      null,
      null,
    ],
    ['not longer', entry({ stampAt: null, recordedAt: arrival - ON_ITS_WAY - 1 }), null, null, 'no-stamp'],
    ['not without a number', entry({ number: null }), null, null, 'no-stamp'],
  ])('%s', (_what, e, device, openedAt, want) =>
    expect(lateness(e, arrival, device as DeviceRun | null, openedAt as number | null)).toBe(want),
  )

  it('for any honest shift: numbers in order, times between contact and arrival', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 8 * HOUR }), { minLength: 1, maxLength: 40 }),
        (gaps) => {
          const start = arrival - 9 * HOUR
          let device: DeviceRun | null = null
          gaps
            .sort((a, b) => a - b)
            .forEach((after, i) => {
              const e = { recordedAt: start + after, stampAt: start, number: i + 1 }
              expect(lateness(e, arrival, device, null)).toBeNull()
              device = runAfter(device, e)
            })
          expect(device!).toEqual({ lastNumber: gaps.length, lastRecordedAt: start + Math.max(...gaps) })
        },
      ),
    )
  })
})

it('a clock drifts between two contacts, or was moved, whichever way', () => {
  expect([0, MOVED, -MOVED].map((by) => clockMoved(5000, 5000 + by))).toEqual([false, false, false])
  expect([MOVED + 1, -MOVED - 1].map((by) => clockMoved(5000, 5000 + by))).toEqual([true, true])
})

it.each([
  ['between contact and arrival when its device says', 50, 60, 50],
  ['no later than it arrived', 1, 60, 1],
  ['at its arrival where it is dated before the contact', 70, 60, 0],
  ['at its arrival without a stamp', 50, null, 0],
  ['at its arrival where it is dated after it', -5, 60, 0],
])('a joint opened without a signal was opened %s', (_what, at, stamp, want) => {
  const arrival = 1_800_000_000_000
  const ago = (minutes: number) => arrival - minutes * 60_000
  expect(openedWhen(ago(at), stamp === null ? null : ago(stamp), arrival)).toBe(ago(want))
})

it('a joint is not opened before what its device recorded earlier', () => {
  const [arrival, stamp] = [1_800_000_000_000, 1_800_000_000_000 - HOUR]
  const run = (lastRecordedAt: number) => ({ lastNumber: 4, lastRecordedAt })
  const at = arrival - HOUR / 2
  expect(openedWhen(at, stamp, arrival, run(at - 1000))).toBe(at)
  expect(openedWhen(at, stamp, arrival, run(at + DRIFT + 1))).toBe(arrival)
})

it.each([
  ['a drift before the contact', -HOUR - DRIFT, -HOUR - DRIFT],
  ['earlier than that counts from its arrival', -HOUR - DRIFT - 1, 0],
  ['a drift after the arrival, as of it', DRIFT, 0],
])('a joint was opened %s', (_what, at, want) =>
  expect(openedWhen(arrival + at, arrival - HOUR, arrival) - arrival).toBe(want),
)

it('two minutes are on their way, and two minutes are no drift', () =>
  expect([ON_ITS_WAY, MOVED]).toEqual([120_000, 120_000]))
it.each(lateReasons)('%s has words of its own', (reason) => {
  const words = Object.values(lateSentences)
  expect(words.filter((w) => w === lateSentences[reason])).toHaveLength(1)
})

it('wrong tries wait longer and longer, up to the longest', () => {
  const rule = { free: 3, first: 1000, longest: 9000 }
  expect([0, 1, 2, 3, 4, 5, 6, 7, 60].map((n) => waitAfter(n, rule))).toEqual([
    0, 0, 0, 1000, 2000, 4000, 8000, 9000, 9000,
  ])
})
