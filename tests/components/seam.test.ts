import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import DrawnSeamClock from '../../app/drawings/joint/DrawnSeamClock.vue'

/** Where the ends of a sealant may meet is the procedure's word, and no drawing's own. */
const drawn = (seam: number | null, off?: number) =>
  mount(DrawnSeamClock, {
    props: {
      values: { school: 'butyl', ...(off === undefined ? {} : { off }) },
      ...{ readings: seam === null ? null : [seam], part: 'seam', angles: null, taps: [] },
    },
  }).html()
const fault = 'stroke="var(--rejected)"'
const allowed = 'stroke="var(--accepted)"'

describe('the seam of a sealant', () => {
  it.each([
    [30, 30, false],
    [-30, 30, false],
    [31, 30, true],
    [31, 45, false],
  ])('at %s° where %s° are allowed: drawn as a fault %s', (seam, off, bad) => {
    expect(drawn(seam, off).includes(fault)).toBe(bad)
    expect(drawn(seam, off)).toContain(allowed)
  })
  it('is no fault, and nothing is drawn as allowed, where the procedure does not say', () => {
    expect(drawn(80)).not.toContain(fault)
    expect(drawn(80)).not.toContain(allowed)
  })
  it('that nobody has read yet shows where it may be', () => {
    expect(drawn(null, 30)).not.toContain(fault)
    expect(drawn(null, 30)).toContain(allowed)
  })
})
