import { describe, expect, it } from 'vitest'
import { filledVolume, readSection, stiffness } from '../../../core/pressure/section'

const known = { length: '500 m', insideDiameter: '300 mm', wall: '8 mm', modulus: '170 GPa' }

describe('the section under test', () => {
  it('is read in SI; what nobody gave is not known, but that the pipe is not held', () =>
    expect(readSection(known, [])).toEqual({
      ...{ length: 500, insideDiameter: 0.3, wall: 0.008, modulus: 170e9, restraint: 1 },
      ...{ poisson: null, pipeExpansion: null, restrained: null, nominal: null, material: null },
    }))
  it.each(['length', 'wall'] as const)('without its %s it is refused where a method needs it', (key) => {
    const { [key]: _gone, ...less } = known
    expect(() => readSection(less, [key])).toThrow(`${key} is missing`)
    expect(readSection(less, ['modulus'])[key]).toBeNull()
  })
  it.each([[null], ['a pipe'], [[]], [undefined]])('%s is no section', (raw) =>
    expect(() => readSection(raw, [])).toThrow('must be an object'),
  )
  it('its material is a short text', () => {
    expect(readSection({ ...known, material: 'x'.repeat(60) }, []).material).toHaveLength(60)
    expect(() => readSection({ ...known, material: 'x'.repeat(61) }, [])).toThrow('short text')
    expect(() => readSection({ ...known, material: 7 }, [])).toThrow('short text')
  })
  it('takes up more the longer, wider and softer it is', () => {
    const section = readSection(known, [])
    const volume = (Math.PI / 4) * 0.09 * 500
    expect(filledVolume(section)).toBeCloseTo(volume, 9)
    expect(stiffness(section)).toBeCloseTo(volume * (1 / 2.19e9 + 0.3 / (170e9 * 0.008)), 15)
    expect(stiffness({ ...section, restraint: 0.9 })).toBeCloseTo(
      volume * (1 / 2.19e9 + (0.9 * 0.3) / (170e9 * 0.008)),
      15,
    )
  })
})
