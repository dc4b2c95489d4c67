import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import CasingSection from '../../app/drawings/CasingSection.vue'

const drawn = (full: number | null, reached: number | null = null) => {
  const wrapper = mount(CasingSection, { props: { bore: 0.9, od: 0.63, full, reached } })
  const svg = wrapper.get('svg')
  return {
    said: svg.attributes('aria-label'),
    height: Number(svg.get('clipPath rect').attributes('height')),
    svg,
  }
}

describe('a pipe in its casing', () => {
  it('is drawn to scale', () => {
    const [casing, , , pipe] = drawn(null).svg.findAll('circle')
    expect(Number(pipe!.attributes('r')) / Number(casing!.attributes('r'))).toBeCloseTo(0.63 / 0.9, 6)
  })
  it('stands in grout as high as what was pumped fills', () => {
    expect(drawn(0).height).toBeCloseTo(0, 3)
    // Half of the room around a pipe in the middle lies below its axis.
    expect(drawn(0.5).height).toBeCloseTo(180, 3)
    expect(drawn(1.2).height).toBe(360)
    expect(drawn(0.2).height).toBeLessThan(drawn(0.3).height)
  })
  it('says what is known, and nothing where it is not', () => {
    expect(drawn(null).said).toBe('No grout pumped yet')
    expect(drawn(0.4).said).toBe('Grout fills 40 % of the room around the pipe')
    expect(drawn(0.4, 0.93).svg.text()).toContain('93 % of what the pipe bears')
    expect(drawn(0.4).svg.text()).not.toContain('bears')
  })
})
