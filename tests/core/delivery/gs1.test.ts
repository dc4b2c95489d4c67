import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkDigit, labelDate, readLabel, writeLabel } from '../../../core/delivery/gs1'

const GS = '\u001D'
const GTIN = '09521234567895'.slice(0, 13)
const gtin = GTIN + checkDigit(GTIN)

describe('a trade label', () => {
  it('is read with brackets', () => {
    expect(readLabel(`(01)${gtin}(17)261201(10)CE-8(21)A7(37)12`, 2026)).toMatchObject({
      gtin,
      expires: '2026-12-01',
      lot: 'CE-8',
      serial: 'A7',
      count: 12,
      made: null,
    })
  })
  it('is read as a scanner gives it, with separators after what has no fixed length', () => {
    expect(readLabel(`]d201${gtin}17261201${'10'}CE-8${GS}21A7`, 2026)).toMatchObject({
      gtin,
      expires: '2026-12-01',
      lot: 'CE-8',
      serial: 'A7',
    })
    expect(readLabel(`${GS}10L1${GS}11260309`, 2026)).toMatchObject({ lot: 'L1', made: '2026-03-09' })
  })
  it.each([
    ['(3102)001250', { mass: 12.5 }],
    ['(3100)000012', { mass: 12 }],
    ['(3112)001200', { length: 12 }],
    ['(3113)012000', { length: 12 }],
    ['(15)270131', { bestBefore: '2027-01-31' }],
  ])('%s', (text, says) => expect(readLabel(text, 2026)).toMatchObject(says))
  it.each([
    ['', 'empty'],
    ['hello', 'no application identifier'],
    ['(99)1', 'no application identifier'],
    [`(01)${GTIN}${(checkDigit(GTIN) + 1) % 10}`, 'check digit'],
    ['(01)123', 'letters'],
    ['(17)261301', 'no date'],
    ['(17)260230', 'no date'],
    ['(10)', 'empty'],
    [`(10)${'x'.repeat(21)}`, 'at most 20'],
    ['(37)x', 'digits'],
    ['(10)a(10)b', 'twice'],
    ['(11)260309(17)260308', 'before it was produced'],
    ['(3102)1', 'letters'],
    ['(10)a b', 'letters that a label'],
    ['x(10)a', 'no application identifier'],
  ])('%j is refused: %s', (text, why) =>
    expect(() => readLabel(text, 2026)).toThrow(
      expect.objectContaining({ code: 'bad-label', message: expect.stringContaining(why) }),
    ),
  )
  it.each([
    ['261201', 2026, '2026-12-01'],
    ['260200', 2026, '2026-02-29'.replace('29', '28')],
    ['280200', 2026, '2028-02-29'],
    ['760101', 2026, '2076-01-01'],
    ['770101', 2026, '1977-01-01'],
    ['990101', 2049, '2099-01-01'],
    ['010101', 2099, '2101-01-01'],
  ])('%s read in %i is %s', (text, year, day) => expect(labelDate(text, year)).toBe(day))
  it('what was written is read back, whatever stands on it', () => {
    const lot = fc.stringMatching(/^[A-Z0-9./_-]{1,20}$/)
    fc.assert(
      fc.property(
        lot,
        lot,
        fc.integer({ min: 1, max: 99_999_999 }),
        fc.integer({ min: 1, max: 999 }),
        (name, serial, count, cm) => {
          const text = writeLabel({
            gtin,
            lot: name,
            serial,
            count,
            made: '2026-03-09',
            expires: '2028-03-09',
            length: cm / 100,
          })
          expect(readLabel(text, 2026)).toMatchObject({
            gtin,
            lot: name,
            serial,
            count,
            made: '2026-03-09',
            expires: '2028-03-09',
            length: cm / 100,
          })
        },
      ),
    )
  })
  it('one wrong digit of an article is always found', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^\d{13}$/),
        fc.integer({ min: 0, max: 13 }),
        fc.integer({ min: 1, max: 9 }),
        (digits, at, by) => {
          const right = digits + checkDigit(digits)
          const wrong = [...right].map((d, i) => (i === at ? String((Number(d) + by) % 10) : d)).join('')
          expect(() => readLabel(`(01)${wrong}`, 2026)).toThrow()
        },
      ),
    )
  })
  it('never fails otherwise than with its own refusal', () => {
    const piece = fc.constantFrom(
      '(01)',
      '(10)',
      '(17)',
      '01',
      '10',
      '17',
      GS,
      gtin,
      '261201',
      'A-1',
      '(',
      ')',
      '310',
      '3103',
    )
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string({ maxLength: 6 })), { maxLength: 8 }), (parts) => {
        try {
          readLabel(parts.join(''), 2026)
        } catch (error) {
          expect(error).toMatchObject({ code: 'bad-label' })
        }
      }),
      { numRuns: 2000 },
    )
  })
})
