import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Problem } from '../../../core/problem'
import { compileFormula, typeOfDimension, type Scope } from '../../../core/formula/formula'

/** Formulas made at random beside their worth, worked out here without the reader. */
interface Made<T> {
  text: string
  worth: T
}
const OD = 0.4
const WALL = 0.02
const scope: Scope = {
  names: new Map([
    ['pipe.od', { slot: 0, type: typeOfDimension('length') }],
    ['pipe.wall', { slot: 1, type: typeOfDimension('length') }],
    ['site.wet', { slot: 2, type: { kind: 'truth' as const } }],
    ['line.pressure', { slot: 3, type: typeOfDimension('pressure') }],
  ]),
  tables: new Map(),
}
const slots = [OD, WALL, true, 1e6]

const made = <T>(text: string, worth: T): Made<T> => ({ text, worth })
const tenth = fc.integer({ min: 1, max: 500 })
const { length, number, truth } = fc.letrec<{
  length: Made<number>
  number: Made<number>
  truth: Made<boolean>
}>((tie) => ({
  length: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom(made('pipe.od', OD), made('pipe.wall', WALL)),
    tenth.map((n) => made(`${n} mm`, n / 1000)),
    tenth.map((n) => made(`${n / 8} in`, (n / 8) * 0.0254)),
    tenth.map((n) => made(`${n / 10} cm`, n / 1000)),
    fc
      .tuple(tie('length'), tie('length'))
      .map(([a, b]) => made(`(${a.text} + ${b.text})`, a.worth + b.worth)),
    fc
      .tuple(tie('length'), tie('length'))
      .map(([a, b]) => made(`(${a.text} - ${b.text})`, a.worth - b.worth)),
    fc.tuple(tie('number'), tie('length')).map(([k, a]) => made(`${k.text} * ${a.text}`, k.worth * a.worth)),
    fc
      .tuple(tie('length'), tie('length'))
      .map(([a, b]) => made(`min(${a.text}, ${b.text})`, Math.min(a.worth, b.worth))),
    fc
      .tuple(tie('length'), tie('length'))
      .map(([a, b]) => made(`max(${a.text}, ${b.text})`, Math.max(a.worth, b.worth))),
    tie('length').map((a) => made(`abs(${a.text})`, Math.abs(a.worth))),
    tie('length').map((a) => made(`-(${a.text})`, -a.worth)),
    fc
      .tuple(tie('truth'), tie('length'), tie('length'))
      .map(([c, a, b]) => made(`(${c.text} ? ${a.text} : ${b.text})`, c.worth ? a.worth : b.worth)),
  ),
  number: fc.oneof(
    { depthSize: 'small' },
    tenth.map((n) => made(String(n / 10), n / 10)),
    tenth.map((n) => made(`(${n} %)`, n / 100)),
    fc
      .tuple(tie('number'), tie('number'))
      .map(([a, b]) => made(`(${a.text} + ${b.text})`, a.worth + b.worth)),
    fc.tuple(tie('length'), tenth).map(([a, n]) => made(`(${a.text} / ${n} mm)`, a.worth / (n / 1000))),
  ),
  truth: fc.oneof(
    { depthSize: 'small' },
    fc.constantFrom(made('site.wet', true), made('true', true), made('false', false)),
    fc
      .tuple(tie('length'), tie('length'))
      .filter(([a, b]) => Math.abs(a.worth - b.worth) > 1e-9)
      .map(([a, b]) => made(`(${a.text} < ${b.text})`, a.worth < b.worth)),
    fc
      .tuple(tie('length'), tie('length'))
      .filter(([a, b]) => Math.abs(a.worth - b.worth) > 1e-9)
      .map(([a, b]) => made(`(${a.text} >= ${b.text})`, a.worth >= b.worth)),
    fc
      .tuple(tie('truth'), tie('truth'))
      .map(([a, b]) => made(`(${a.text} and ${b.text})`, a.worth && b.worth)),
    fc
      .tuple(tie('truth'), tie('truth'))
      .map(([a, b]) => made(`(${a.text} or ${b.text})`, a.worth || b.worth)),
    tie('truth').map((a) => made(`(not ${a.text})`, !a.worth)),
  ),
}))
const short = <T>(arbitrary: fc.Arbitrary<Made<T>>) => arbitrary.filter((m) => m.text.length <= 400)
const compiled = (text: string) => compileFormula(text, scope)

describe('a formula is worth what it says', () => {
  it('lengths', () =>
    fc.assert(
      fc.property(short(length), ({ text, worth }) => {
        const formula = compiled(text)
        expect(formula.type).toEqual(typeOfDimension('length'))
        expect(Math.abs((formula.evaluate(slots) as number) - worth), text).toBeLessThanOrEqual(
          1e-9 * Math.max(1, Math.abs(worth)),
        )
      }),
      { numRuns: 600 },
    ))
  it('plain numbers', () =>
    fc.assert(
      fc.property(short(number), ({ text, worth }) => {
        expect(Math.abs((compiled(text).evaluate(slots) as number) - worth), text).toBeLessThanOrEqual(
          1e-9 * Math.max(1, Math.abs(worth)),
        )
      }),
      { numRuns: 300 },
    ))
  it('yes and no', () =>
    fc.assert(
      fc.property(short(truth), ({ text, worth }) => {
        expect(compiled(text).evaluate(slots), text).toBe(worth)
      }),
      { numRuns: 400 },
    ))
})

describe('what does not go together is refused', () => {
  it('a length and a pressure, however either is made', () =>
    fc.assert(
      fc.property(short(length), fc.constantFrom('+', '-', '<', '>=', '=='), ({ text }, op) => {
        fc.pre(text.length < 360)
        expect(() => compiled(`${text} ${op} line.pressure`)).toThrow(Problem)
      }),
      { numRuns: 200 },
    ))
  it('a yes and a length', () =>
    fc.assert(
      fc.property(short(truth), short(length), (a, b) => {
        fc.pre(a.text.length + b.text.length < 360)
        expect(() => compiled(`${a.text} + ${b.text}`)).toThrow(Problem)
        expect(() => compiled(`${b.text} and ${a.text}`)).toThrow(Problem)
      }),
      { numRuns: 100 },
    ))
})

describe('facts that are not known', () => {
  it('give no number, and no verdict', () =>
    fc.assert(
      fc.property(short(length), ({ text }) => {
        const formula = compiled(text)
        fc.pre(
          formula.uses.includes('pipe.od') &&
            !text.includes('?') &&
            !text.includes('min(') &&
            !text.includes('max('),
        )
        expect(formula.evaluate([undefined, WALL, true, 1e6])).toBeNaN()
      }),
      { numRuns: 200 },
    ))
})
