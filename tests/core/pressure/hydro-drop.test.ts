import { describe, expect, it } from 'vitest'
import { evaluateTest, readRequest } from '../../../core/pressure/evaluate'

const section = {
  length: 640,
  insideDiameter: 0.2545,
  wall: 0.0063,
  modulus: 207e9,
  poisson: 0.3,
  pipeExpansion: 1.17e-5,
  restrained: true,
}
type Rows = (number | null)[][]
/** Up in ten minutes, then as the function says; rows of a minute, two and a half hours. */
const log = (pressure: (t: number) => number, pipe: (t: number) => number | null = () => null): Rows =>
  Array.from({ length: 151 }, (_v, i) => {
    const t = i * 60
    return [t, t < 600 ? (1.7e6 * t) / 600 : pressure(t - 600), pipe(t), null, null]
  })
const evaluate = (rows: Rows, more: object = {}, parameters: object = {}) =>
  evaluateTest(
    readRequest({
      method: 'hydro-drop',
      parameters: { testPressure: 1.7e6, ...parameters },
      section,
      gauge: { uncertainty: 1000 },
      rows,
      ...more,
    }),
  )
const falling = (paPerHour: number) => (t: number) => 1.7e6 - (paPerHour * t) / 3600

describe('a fall in an hour', () => {
  it.each([
    [5000, 'accept'],
    [19_900, 'accept'],
    [20_100, 'reject'],
    [60_000, 'reject'],
  ])('of %i Pa is %s', (fall, verdict) => expect(evaluate(log(falling(fall))).verdict).toBe(verdict))
  it('near the limit with a coarse gauge is too close to call', () =>
    expect(evaluate(log(falling(19_900)), { gauge: { uncertainty: 1000, resolution: 1000 } }).verdict).toBe(
      'too-close',
    ))
  it('by the simple rule is what it is', () =>
    expect(
      evaluate(log(falling(19_900)), { rule: 'simple', gauge: { uncertainty: 1000, resolution: 1000 } })
        .verdict,
    ).toBe('accept'))
  it('that comes of cooling is taken away', () => {
    const cools = (t: number) => 15 - t / 7200
    const { numbers } = evaluate(log(falling(5000), cools))
    expect(numbers.temperatureEffect!.value).toBeLessThan(-30e3)
    expect(numbers.rate!.value!).toBeLessThan(0)
  })
})

describe('before the hold has run out', () => {
  it('nothing is rejected, and it says how long', () => {
    const found = evaluate(log(falling(60_000)).slice(0, 70))
    expect([found.verdict, found.needed]).toEqual(['incomplete', 600 + 1800 + 3600 - 69 * 60])
  })
  it('a pause is left out and stops its clock', () => {
    const events = [
      { t: 3000, kind: 'paused' },
      { t: 3600, kind: 'resumed' },
    ]
    const found = evaluate(log(falling(5000)).slice(0, 105), { events })
    expect([found.verdict, found.needed]).toEqual(['incomplete', 6600 - 104 * 60])
  })
  it('water added in the hold rejects at once', () => {
    const rows = log(falling(5000)).slice(0, 70)
    const poured = rows.map((r) => [...r.slice(0, 4), r[0]! > 3000 ? 0.001 : 0])
    expect(evaluate(poured).verdict).toBe('reject')
  })
})

describe('what is needed', () => {
  it('a sensor asks for what its correction is made of', () =>
    expect(() =>
      evaluate(
        log(falling(1), () => 15),
        { section: { ...section, poisson: undefined } },
      ),
    ).toThrow(expect.objectContaining({ field: 'poisson' })))
  it.each<[string, object, string]>([
    ['the wall', { section: { ...section, wall: undefined } }, 'wall'],
    ['the uncertainty of the gauge', { gauge: {} }, 'uncertainty'],
    ['a gauge without strangers', { gauge: { uncertainty: 1, colour: 'red' } }, 'gauge'],
    ['a request without strangers', { colour: 'red' }, 'colour'],
    ['a section without strangers', { section: { ...section, colour: 'red' } }, 'colour'],
  ])('%s', (_what, more, field) =>
    expect(() => evaluate(log(falling(1)), more)).toThrow(expect.objectContaining({ field })),
  )
  it('the test pressure may be a text with its unit', () =>
    expect(evaluate(log(falling(5000)), {}, { testPressure: '17 bar' }).verdict).toBe('accept'))
})
