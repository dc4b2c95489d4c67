import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calibratedAt, calibrationOf, instrumentFacts, SOON } from '../../../core/checks/instruments'

const DAY = 86_400_000
const at = Date.parse('2026-03-09T12:00:00Z')
const until = (ms: number) => {
  const end = new Date(at + ms).toISOString()
  return { calibratedUntil: end, calibrations: [{ from: '2025-01-01', until: end, certificate: null }] }
}

describe('how a calibration stands', () => {
  it.each([
    ['for long', 200 * DAY, 'good', 200],
    ['a day more than is soon', (SOON + 1) * DAY, 'good', SOON + 1],
    ['a moment less than that', (SOON + 1) * DAY - 1, 'soon', SOON],
    ['on its last day', 0.5 * DAY, 'soon', 0],
    ['to this moment', 0, 'soon', 0],
    ['a moment over', -1, 'out', -1],
    ['long over', -9.5 * DAY, 'out', -10],
  ] as const)('%s', (_name, left, state, days) => {
    expect(calibrationOf(until(left), at)).toEqual({ state, days })
  })
  it('of an instrument that was never calibrated is none, whatever its date says', () => {
    const never = { ...until(200 * DAY), calibrations: [] }
    expect(calibrationOf(never, at)).toEqual({ state: 'never', days: null })
  })
  it('is over exactly when readings no longer count', () =>
    fc.assert(
      fc.property(fc.integer({ min: -90 * DAY, max: 90 * DAY }), (left) => {
        const instrument = {
          ...until(left),
          ...{ id: 'i', name: 'C-2', kind: 'calliper', quantity: 'length' },
          ...{ min: 0, max: 1, resolution: 0.0001, uncertainty: 0.0002 },
        }
        const counts = calibratedAt(instrumentFacts([instrument]).i!, at)
        expect(calibrationOf(instrument, at).state === 'out').toBe(!counts)
      }),
    ))
})
