import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { judge } from '../../../core/judgement/judge'
import { readFact, typedFact, unitOfFact, withUnitOfFact } from '../../../core/procedure/facts'
import type { ProcedureFact } from '../../../core/procedure/types'
import { dimensions, type DimensionKey } from '../../../core/quantity/dimension'
import { readQuantity } from '../../../core/quantity/read'
import {
  showBare,
  showMetres,
  showQuantity,
  showSteps,
  showStretch,
  showTaped,
} from '../../../core/quantity/show'
import {
  inchFraction,
  inSite,
  ofSite,
  showEverythingIn,
  shownIn,
  siteUnits,
  unitOn,
  unitShown,
  withUnit,
  wordedIn,
} from '../../../core/quantity/site-units'
import { findUnit, unitsOf } from '../../../core/quantity/units'
import { sayValue } from '../../../core/pressure/report'
import { read } from '../entries'
import { at, facts, small } from '../judgement/support'

afterEach(() => showEverythingIn('as-written'))
const us = <T>(run: () => T) => wordedIn('us', run)

describe('the unit that a site reads', () => {
  it.each([
    ['mm', 'in', 'mm'],
    ['m', 'ft', 'm'],
    ['kPa', 'psi', 'kPa'],
    ['bar', 'psi', 'bar'],
    ['°C', '°F', '°C'],
    ['L', 'gal', 'L'],
    ['kg', 'lb', 'kg'],
    ['N·m', 'ft·lbf', 'N·m'],
    ['L/h', 'gal/h', 'L/h'],
    ['in', 'in', 'mm'],
    ['psi', 'psi', 'kPa'],
    ['°F', '°F', '°C'],
    ['min', 'min', 'min'],
    ['%', '%', '%'],
    ['deg', 'deg', 'deg'],
  ])('of %s is %s on a US site and %s on a metric one', (written, american, metric) => {
    expect(unitOn('us', written)).toBe(american)
    expect(unitOn('metric', written)).toBe(metric)
    expect(unitOn('as-written', written)).toBe(written)
  })
  it('is of the same dimension, for every unit there is', () => {
    for (const dimension of Object.keys(dimensions) as DimensionKey[])
      for (const unit of unitsOf(dimension))
        for (const units of siteUnits)
          expect(findUnit(unitOn(units, unit))?.dimension, unit).toBe(findUnit(unit)!.dimension)
  })
})

describe('what is shown, typed again', () => {
  const written = (Object.keys(dimensions) as DimensionKey[]).flatMap((dimension) =>
    unitsOf(dimension).map((unit) => [dimension, unit] as const),
  )
  it.each(siteUnits)('is the same value within what the display resolves, %s', (units) => {
    fc.assert(
      fc.property(
        fc.constantFrom(...written),
        fc.double({ min: -1e4, max: 1e4, noNaN: true }).filter((v) => Math.abs(v) > 1e-3),
        fc.integer({ min: 3, max: 8 }),
        ([dimension, unit], number, digits) => {
          const value = readQuantity(`${number.toFixed(6)}`, dimension, { bareUnit: unit })
          const shown = wordedIn(units, () => showQuantity(value, dimension, unit, digits))
          const own = findUnit(unitOn(units, unit))!
          // Half of the last digit shown, or half a hundredth of a thirty-second of an inch.
          const inOwn = Math.abs((value - own.offset) / own.factor)
          const resolved = Math.max(10 ** (Math.floor(Math.log10(inOwn || 1)) + 1 - digits), 1 / 32 / 50)
          const again = readQuantity(shown.replace(/\u00a0/g, ' '), dimension)
          expect(Math.abs(again - value) / own.factor, shown).toBeLessThanOrEqual(resolved)
        },
      ),
    )
  })
  it('a fraction of an inch comes back as it was typed', () => {
    for (const typed of ['6 5/8 in', '1/32 in', '4 11/32 in', '12 in', '3/4 in'])
      expect(us(() => showQuantity(readQuantity(typed, 'length'), 'length', 'mm'))).toBe(typed)
  })
  it('a bare number at a field is of the unit beside it', () => {
    fc.assert(
      fc.property(fc.constantFrom(...siteUnits), fc.integer({ min: 1, max: 999 }), (units, n) => {
        wordedIn(units, () => {
          const there = readQuantity(withUnit(String(n), 'm'), 'length')
          expect(there).toBeCloseTo(readQuantity(`${n} ${unitShown('m')}`, 'length'), 9)
          expect(ofSite(inSite(there, 'm'), 'm')).toBeCloseTo(there, 9)
        })
      }),
    )
    expect(us(() => withUnit('8 ft', 'm'))).toBe('8 ft')
    expect(us(() => withUnit('', 'm'))).toBe('')
    expect(us(() => withUnit('6 5/8', 'mm'))).toBe('6 5/8 in')
  })
})

describe('a tape', () => {
  it.each([
    [0.11, '4 11/32 in'],
    [0.0254, '1 in'],
    [0.3048, '12 in'],
    [0.0006, '1/32 in'],
    [0, '0 in'],
  ])('%f m is laid off at %s', (metres, text) => expect(us(() => showTaped(metres, 'mm'))).toBe(text))
  it('never stands further off than half a mark', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 400, noNaN: true }), (inches) => {
        const text = inchFraction(inches, false)!
        expect(Math.abs(readQuantity(`${text} in`, 'length') / 0.0254 - inches)).toBeLessThanOrEqual(
          1 / 64 + 1e-9,
        )
      }),
    )
  })
  it('a metric one is read as before', () => expect(showTaped(0.11, 'mm')).toBe('110 mm'))
  it('what lies between two marks is no fraction where it was measured finer', () => {
    expect(inchFraction(4.33, true)).toBeNull()
    expect(us(() => showQuantity(0.11, 'length', 'mm'))).toBe('4.331 in')
  })
})

describe('stations, stretches and steps', () => {
  it.each<[string, () => string, string, string]>([
    ['a station', () => showMetres(152.4, 1), '152.4 m', '500.0 ft'],
    ['bare', () => showMetres(152.4, 1, false), '152.4', '500.0'],
    ['below zero', () => showMetres(-3.048, 2), '−3.05 m', '−10.00 ft'],
    ['a stretch', () => showStretch(0, 304.8), '0 to 305 m', '0 to 1000 ft'],
    ['whole steps', () => showSteps(0.3047, 'mm'), '305 mm', '12 in'],
    ['up to the safe side', () => showSteps(0.3001, 'mm', true), '301 mm', '11.9 in'],
    ['a leak', () => sayValue(3.785411784, 'L/h'), '3.79 L/h', '1 gal/h'],
    ['a fall of pressure', () => sayValue(6894.757, 'Pa/h'), '6.89 kPa/h', '1 psi/h'],
    ['a force', () => sayValue(4448.2216, 'N'), '4.45 kN', '1000 lbf'],
  ])('%s', (_what, say, metric, american) => {
    expect(say()).toBe(metric)
    expect(us(say)).toBe(american)
  })
})

describe('a fact of a joint', () => {
  const depth: ProcedureFact = {
    ...{ key: 'd', title: 'Depth', dimension: 'length', unit: 'mm', from: 'pipe' },
  } as ProcedureFact
  const size = { ...depth, nominal: true } as ProcedureFact
  it('is typed and shown in inches on a US site, and is the same fact', () => {
    us(() => {
      expect(unitOfFact(depth)).toBe('in')
      expect(typedFact(depth, 0.1016)).toBe('4')
      expect(readFact(depth, withUnitOfFact('4', depth))).toBeCloseTo(0.1016, 12)
    })
  })
  it('a nominal size is a name: it keeps the unit that it is written in', () => {
    us(() => {
      expect(unitOfFact(size)).toBe('mm')
      expect(typedFact(size, 0.3)).toBe('300')
      expect(withUnitOfFact('300', size)).toBe('300')
    })
  })
})

describe('a judgement', () => {
  const entries = [read('gouge', [0.0012], 3)]
  const sentence = (units?: 'us' | 'metric') =>
    judge(small, facts, entries, at(10), { ...(units && { units }) }).steps[0]!.sentence
  it('is worded in the units of the site, and is the same judgement', () => {
    expect(sentence()).toContain('1.2 mm is outside: allowed at most 1 mm')
    expect(sentence('us')).toMatch(/0\.04724 in is outside: allowed at most 0\.03937 in/)
    const { sentence: _a, ...plain } = judge(small, facts, entries, at(10)).steps[0]!
    const { sentence: _b, ...american } = judge(small, facts, entries, at(10), { units: 'us' }).steps[0]!
    expect(american).toEqual(plain)
  })
  it('leaves what is shown elsewhere as it was, also when it fails', () => {
    sentence('us')
    expect(shownIn()).toBe('as-written')
    expect(() =>
      us(() => {
        throw new Error('no')
      }),
    ).toThrow('no')
    expect(shownIn()).toBe('as-written')
    expect(showBare(0.0254, 'mm')).toBe('25.4')
  })
})
