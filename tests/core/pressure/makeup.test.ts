import { describe, expect, it } from 'vitest'
import { evaluateTest, readRequest } from '../../../core/pressure/evaluate'
import { stiffness, readSection } from '../../../core/pressure/section'

const section = {
  ...{ length: 600, insideDiameter: 0.3, wall: 0.008, modulus: 170e9, nominal: '300 mm' },
  ...{ poisson: 0.28, pipeExpansion: 1.1e-5, restrained: true },
}
type Rows = (number | null)[][]
/** At pressure from the first minute, two hours and a quarter: what the meter gives out, and the pipe's warmth. */
const log = (
  meter: (t: number) => number | null,
  pipe: (t: number) => number | null = () => null,
  pressure: (t: number) => number = () => 10e5,
): Rows =>
  Array.from({ length: 136 }, (_v, i) => {
    const t = i * 60
    return [t, t < 60 ? 2e5 : pressure(t), pipe(t), null, meter(t)]
  })
const evaluate = (rows: Rows, of: object = section, parameters: object = {}) =>
  evaluateTest(
    readRequest({
      method: 'hydro-makeup',
      parameters: { testPressure: 10e5, ...parameters },
      section: of,
      gauge: { uncertainty: 1000, meterUncertainty: 0.01 },
      rows,
    }),
  )
const litres = (l: number) => (t: number) => 2 + (l / 1000) * (t / 7200)

describe('water added to keep a pressure', () => {
  it('is what the meter gave out over the hold, with what it takes to bring the pressure back', () => {
    const { numbers } = evaluate(log(litres(3), undefined, (t) => (t < 7000 ? 10e5 : 10e5 - 5000)))
    expect(numbers.added!.value).toBeCloseTo(3, 1)
    const takes = stiffness(readSection(section, []))
    expect(numbers.restored!.value).toBeCloseTo(takes * 5000 * 1000, 3)
    expect(numbers.total!.value).toBeCloseTo(numbers.added!.value! + numbers.restored!.value!, 9)
  })
  it('without a meter is not judged', () => expect(() => evaluate(log(() => null))).toThrow('no meter'))
  it('of a meter that came later, or went earlier, is what it last said', () => {
    const late = evaluate(log((t) => (t < 1800 ? null : litres(3)(t))))
    expect(late.numbers.added!.value).toBeCloseTo(2.25, 1)
    const early = evaluate(log((t) => (t > 5400 ? null : litres(3)(t))))
    expect(early.numbers.added!.value).toBeCloseTo(2.25, 1)
  })
})

describe('what a temperature hides or feigns', () => {
  const cautions = (by: number, of: object = section) =>
    evaluate(
      log(litres(3), (t) => 12 + (by * t) / 7200),
      of,
    ).cautions.filter((c) => c.includes('temperature moved'))
  it('warming hides water, cooling feigns it, and it says how much', () => {
    const [warm] = cautions(2)
    expect(warm).toMatch(/^The temperature moved by 2\.0 K: that hides about \d+\.\d L\.$/)
    expect(cautions(-2)[0]).toMatch(/moved by -2\.0 K: that feigns about \d+\.\d L\.$/)
  })
  it('says nothing where it moved less than the total is known to', () =>
    expect(cautions(0.0001)).toEqual([]))
  it.each(['poisson', 'pipeExpansion', 'restrained'])('nor where %s of the pipe is not known', (key) =>
    expect(cautions(2, { ...section, [key]: undefined })).toEqual([]),
  )
  it('nor without a sensor', () =>
    expect(evaluate(log(litres(3))).cautions.some((c) => c.includes('temperature moved'))).toBe(false))
})
