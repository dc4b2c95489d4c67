import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sideBySide } from '../../app/drawings/side-by-side'

describe('marks along a row', () => {
  it('stay where they are when they have room', () =>
    expect(sideBySide([300, 100, 200], 28, 0, 400)).toEqual([300, 100, 200]))
  it('of one place stand around it', () => expect(sideBySide([100, 100], 20, 0, 400)).toEqual([90, 110]))
  it('at the end of the row stand within it', () =>
    expect(sideBySide([400, 398, 10], 20, 0, 400)).toEqual([400, 380, 10]))
  it('never cover each other, keep their order, and stay in a row that has room', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1000 }), { maxLength: 30 }), (wanted) => {
        const placed = sideBySide(wanted, 28, 0, 1000)
        const order = wanted.map((_x, i) => i).sort((a, b) => placed[a]! - placed[b]!)
        for (const [k, i] of order.entries()) {
          expect(placed[i]).toBeGreaterThanOrEqual(-1e-9)
          expect(placed[i]).toBeLessThanOrEqual(1000 + 1e-9)
          if (k === 0) continue
          expect(placed[i]! - placed[order[k - 1]!]!).toBeGreaterThanOrEqual(28 - 1e-9)
          expect(wanted[i]).toBeGreaterThanOrEqual(wanted[order[k - 1]!]!)
        }
      }),
    ))
})
