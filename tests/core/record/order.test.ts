import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Entry } from '../../../core/record/entry'
import { byTime, inOrder } from '../../../core/record/order'

const entry = (id: string, recordedAt: number) => ({ id, recordedAt }) as Entry

describe('the order of entries', () => {
  it.each([
    ['the earlier one first', entry('b', 1), entry('a', 2), -1],
    ['the later one last', entry('a', 2), entry('b', 1), 1],
    ['of one time the lower id', entry('a', 1), entry('b', 1), -1],
    ['of one time not the higher', entry('b', 1), entry('a', 1), 1],
    ['itself is neither', entry('a', 1), entry('a', 1), 0],
  ])('%s', (_what, a, b, sign) => expect(Math.sign(byTime(a, b))).toBe(sign))
  it('is the same whatever order they came in, and loses none', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 99 })), {
          selector: ([, id]) => id,
        }),
        (list) => {
          const came = list.map(([at, id]) => entry(String(id).padStart(2, '0'), at))
          const sorted = [...came].sort((a, b) => a.recordedAt - b.recordedAt || Number(a.id) - Number(b.id))
          expect(inOrder(came)).toEqual(sorted)
          expect(inOrder([...came].reverse())).toEqual(sorted)
        },
      ),
    ))
  it('entries that are in order are not copied: looking is all', () => {
    const list = [entry('a', 1), entry('a', 1), entry('b', 1), entry('c', 2)]
    expect(inOrder(list)).toBe(list)
    expect(inOrder([])).toEqual([])
  })
})
