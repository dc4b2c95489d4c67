import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { packStrip, unpackStrip, type StripJoint } from '../../../core/line/strip-rows'

const state = fc.constantFrom('accepted', 'in-work', 'held', 'waiting', 'rejected') as fc.Arbitrary<
  StripJoint['state']
>
const joint: fc.Arbitrary<StripJoint> = fc.record({
  id: fc.uuid(),
  number: fc.string({ minLength: 1, maxLength: 12 }),
  station: fc.integer({ min: -5_000_000, max: 200_000_000 }).map((mm) => mm / 1000),
  crew: fc.constantFrom('north', 'harbour', 'dunes'),
  state,
  changes: fc.array(fc.record({ at: fc.integer({ min: 0, max: 4e12 }), state }), { maxLength: 3 }),
  opened: fc.boolean(),
  delivered: fc.boolean(),
  ncr: fc.boolean(),
  next: fc.option(fc.constantFrom('Peel depth', 'Cut square', '')),
  done: fc.nat(60),
  applicable: fc.nat(60),
})

describe('joints of a strip on their way', () => {
  it('arrive as they were sent, through JSON', () => {
    fc.assert(
      fc.property(fc.array(joint, { maxLength: 40 }), (joints) => {
        expect(unpackStrip(JSON.parse(JSON.stringify(packStrip(joints))))).toEqual(joints)
      }),
    )
  })
  it('a word that repeats stands once', () => {
    const [one] = fc.sample(joint, 1)
    const { words } = packStrip(new Array(50).fill({ ...one!, changes: [], next: 'Peel depth' }))
    expect(words).toEqual([one!.crew, one!.state, 'Peel depth'])
  })
  it('a station is kept to the millimetre, however long the line', () => {
    const [one] = fc.sample(joint, 1)
    const line = Array.from({ length: 20_000 }, (_v, i) => ({ ...one!, station: i * 12.0004 }))
    const last = unpackStrip(packStrip(line)).at(-1)!
    expect(Math.abs(last.station - 19_999 * 12.0004)).toBeLessThanOrEqual(0.0005)
  })
})
