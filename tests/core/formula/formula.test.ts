import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { compileFormula, typeOfDimension, type Scope } from '../../../core/formula/formula'
import { loadProcedure } from '../../../core/procedure/load'
import { procedureSource } from '../../../demo/system-records'

const scope: Scope = {
  names: new Map([
    ['pipe.od', { slot: 0, type: typeOfDimension('length') }],
    ['line.pressure', { slot: 1, type: typeOfDimension('pressure') }],
    ['site.wet', { slot: 2, type: { kind: 'truth' as const } }],
    ['joint.ring', { slot: 3, type: { kind: 'word' as const } }],
  ]),
  tables: new Map(),
}
const slots = [0.4, 10e5, true, 'rolling']
const value = (text: string) => compileFormula(text, scope).evaluate(slots)
const refused = (text: string): Problem => {
  try {
    compileFormula(text, scope)
  } catch (error) {
    if (error instanceof Problem) return error
    throw error
  }
  return expect.unreachable(text) as never
}

describe('formulas', () => {
  it.each<[string, number | boolean | string]>([
    ['pipe.od / 2 + 20 mm', 0.22],
    ['10 % * pipe.od', 0.04],
    ['5 % - 2 %', 0.03],
    ['100 mm + 10 %  * 100 mm', 0.11],
    ['2 in', 0.0508],
    ['-3 mm', -0.003],
    ['pipe.od >= 400 mm ? 3 mm : 2 mm', 0.003],
    ['min(1.5 % * pipe.od, 3 mm)', 0.003],
    ['5 degC', 5],
    ['−10 °C', -10],
    ['sqrt(pipe.od ^ 2)', 0.4],
    ['sin(30 deg)', 0.5],
    ['atan(1)', 45],
    ['ceil(pipe.od / 150 mm)', 3],
    ['floor(2.9)', 2],
    ['abs(-2 mm)', 0.002],
    ['site.wet and pipe.od > 1 m', false],
    ['not site.wet or pipe.od < 1 m', true],
    ['joint.ring == "rolling"', true],
    ['100 mm < pipe.od <= 400 mm', true],
    ['line.pressure * pi / 4 * pipe.od ^ 2', (10e5 * Math.PI * 0.16) / 4],
    ['calculator("scrape-length", "length", {fittingWidth: pipe.od})', 0.22],
    ['calculator("gouge", "percent", {depth: 1 mm, wall: 10 mm})', 0.1],
    ['calculator("cement-cure", "set", {size: 160 mm, temperature: 20 degC, pressure: 0 bar})', 1800],
  ])('%s', (text, want) => {
    if (typeof want === 'number') expect(value(text)).toBeCloseTo(want, 9)
    else expect(value(text)).toBe(want)
  })

  it.each<[string, RegExp]>([
    ['pipe.od + line.pressure', /adding a (length|pressure) to a (length|pressure)/],
    ['pipe.od - 3 s', /taking a time from a length/],
    ['pipe.od > line.pressure', /comparing a length with a pressure/],
    ['min(1 mm, 1 bar)', /mixes a length with a pressure/],
    ['sin(pipe.od)', /needs an angle/],
    ['pipe.od ^ pipe.od', /power must be a plain constant/],
    ['pipe.od ^ 99', /power must be a plain constant/],
    ['site.wet + 1', /needs a number/],
    ['pipe.od ? 1 : 2', /must be a yes\/no/],
    ['site.wet ? 1 mm : 1 bar', /one branch gives/],
    ['pipe.wall', /not a fact/],
    ['f(x) = x', /may not use function ?assignment/],
    ['x = 3', /may not use assignment/],
    ['1; 2', /may not use/],
    ['[1, 2]', /may not use array/],
    ['pipe["od"]', /Only names with dots/],
    ['pipe.od.constructor', /not a fact/],
    ['eval("1")', /may not be called/],
    ['import("x")', /may not be called/],
    ['parse("1")', /may not be called/],
    ['toString()', /may not be called/],
    ['constructor(1)', /may not be called/],
    ['table("none", 1)', /no table/],
    ['calculator("none", "x", {})', /no calculator/],
    ['reading("x")', /may not be called/],
    ['mark("x")', /no mark/],
    ['1 / * 2', /cannot be read/],
    ['', /empty/],
    ['5 °F + 1 degC', /temperature|°F|degC/],
  ])('refuses %s', (text, sentence) => expect(refused(text).message).toMatch(sentence))

  it('stays small: long and deep formulas are refused at once', () => {
    expect(refused('1 + '.repeat(200) + '1').message).toMatch(/at most 400/)
    expect(value('('.repeat(190) + '1' + ')'.repeat(190))).toBe(1)
    expect(refused('1+'.repeat(150) + '1').message).toMatch(/too long/)
  })
  it('any text gives a formula or a refusal, and evaluating it never throws', () => {
    const pieces = fc.constantFrom(
      'pipe.od',
      '3 mm',
      '+',
      '-',
      '*',
      '/',
      '(',
      ')',
      'min(',
      ',',
      '?',
      ':',
      '==',
      '"a"',
      'site.wet',
      'and',
      'not ',
      '^',
      '%',
      'table("t",',
      'calculator("gouge","percent",{depth:',
      '}',
      'reading("x")',
      '1e308',
      '[',
      '=',
    )
    fc.assert(
      fc.property(fc.array(fc.oneof(pieces, fc.string({ maxLength: 4 })), { maxLength: 14 }), (parts) => {
        try {
          compileFormula(parts.join(' '), scope).evaluate(slots)
        } catch (error) {
          expect(error).toBeInstanceOf(Problem)
        }
      }),
      { numRuns: 3000 },
    )
  })
})

describe('formulas that read earlier steps', () => {
  const source = procedureSource('manhole-sealant')
  const load = (from: string, to: string) => {
    expect(source).toContain(from)
    return () => loadProcedure(source.replace(from, `'${to}'`))
  }
  const limit = '0.7 * reading("strip-height")'
  it.each([
    ['a step that comes later', 'reading("gap")', /comes later/],
    ['an unknown step', 'reading("nothing")', /There is no step "nothing"/],
    ['a step that records no reading', 'reading("faces")', /records nothing that reading/],
    [
      'a choice of a step without one',
      '(answer("faces") == "x" ? 1 mm : 2 mm)',
      /records nothing that answer/,
    ],
    ['another dimension', 'reading("seam")', /must be a length, but the formula gives an angle/],
  ])('%s is refused, with its line', (_what, to, sentence) => {
    expect(load(limit, to)).toThrow(sentence)
    expect(load(limit, to)).toThrow(/^Line \d+, column \d+: /)
  })
  it('a choice made earlier can decide', () => {
    expect(load(limit, '(answer("ends-met") == "overlap" ? 20 mm : 25 mm)')).not.toThrow()
    expect(load(limit, 'reading("strip-height", "max")')).not.toThrow()
    expect(load(limit, 'reading("strip-height", "most")')).toThrow(/second value/)
  })
})
