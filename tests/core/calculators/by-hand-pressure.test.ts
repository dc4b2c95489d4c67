import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { run, value } from './run'

/** Of levels, pressure and what is close enough: cases that a person can do on paper, and laws that hold for every input. */
const near = (got: number, want: number, digits = 9) => expect(got).toBeCloseTo(want, digits)

describe('levels', () => {
  const sights = [
    { backsight: 1.5 },
    { intermediate: 1.2 },
    { backsight: 0.8, foresight: 1.9 },
    { foresight: 1.1 },
  ]
  it('rise and fall, station by station', () => {
    const { levels, misclosure, allowed } = run('level-run', {
      sights,
      startLevel: 10,
      closeLevel: 9.295,
      distance: 1000,
    }) as unknown as { levels: number[]; misclosure: number; allowed: number }
    ;[10, 10.3, 9.6, 9.3].forEach((want, i) => near(levels[i]!, want))
    near(misclosure, 0.005)
    near(allowed, 0.012)
  })
  it('the last level is start plus backsights less foresights', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: 0, max: 4, noNaN: true }), fc.double({ min: 0, max: 4, noNaN: true })),
          { minLength: 1, maxLength: 20 },
        ),
        (turns) => {
          const list = [
            { backsight: turns[0]![0] },
            ...turns.slice(1).map(([backsight, foresight]) => ({ backsight, foresight })),
            { foresight: turns[0]![1] },
          ]
          const levels = run('level-run', { sights: list, startLevel: 50 }).levels as unknown as number[]
          near(levels.at(-1)!, 50 + turns.reduce((s, [b, f]) => s + b - f, 0), 6)
        },
      ),
    ))
  it.each([
    ['an empty row', [{ backsight: 1 }, {}, { foresight: 1 }]],
    ['no backsight first', [{ foresight: 1 }, { foresight: 1 }]],
    ['a backsight last', [{ backsight: 1 }, { backsight: 1 }]],
    ['a mixed row', [{ backsight: 1 }, { intermediate: 1, foresight: 1 }, { foresight: 1 }]],
    ['half a change point', [{ backsight: 1 }, { foresight: 1 }, { foresight: 1 }]],
  ])('%s is a bad booking, said by its row', (_what, list) =>
    expect(() => run('level-run', { sights: list, startLevel: 0 })).toThrow(
      expect.objectContaining({ code: 'bad-booking', field: 'sights' }),
    ),
  )
})

describe('pressure', () => {
  it('ten metres of water are about one bar', () =>
    near(value('pressure-at', 'pressure', { gauge: 0, gaugeElevation: 10, elevation: 0 }), 98_066.5))
  it('up and down again is the same pressure', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -80, max: 80, noNaN: true }),
        (h) =>
          void near(
            value('pressure-at', 'pressure', {
              gauge: value('pressure-at', 'pressure', { gauge: 1e6, gaugeElevation: 0, elevation: h }),
              gaugeElevation: h,
              elevation: 0,
            }),
            1e6,
            4,
          ),
      ),
    ))
  it('a bend of 60° pushes like a dead end, one of 180° like two', () => {
    const dead = value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'dead-end' })
    near(value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'bend', angle: 60 }), dead, 4)
    near(value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'bend', angle: 180 }), 2 * dead, 4)
  })
  it('reducer and branch share the dead end between them', () =>
    near(
      value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'reducer', smaller: 0.2 }) +
        value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'tee', smaller: 0.2 }),
      value('thrust', 'force', { pressure: 1e6, diameter: 0.3, kind: 'dead-end' }),
      4,
    ))
  it('the makeup allowance goes with length, diameter and the root of pressure', () => {
    const base = value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.2, pressure: 4e5 })
    near(value('hydro-allowance', 'litresPerHour', { length: 300, diameter: 0.2, pressure: 4e5 }), 3 * base)
    near(value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.4, pressure: 4e5 }), 2 * base)
    near(value('hydro-allowance', 'litresPerHour', { length: 100, diameter: 0.2, pressure: 16e5 }), 2 * base)
  })
  it('air of a known volume is found again', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 5, noNaN: true }), (air) => {
        const pa = 101_325
        const added = air * (pa / (1e5 + pa) - pa / (5e5 + pa))
        near(value('trapped-air', 'air', { volume: 40, from: 1e5, to: 5e5, added }), air, 6)
      }),
    ))
  it('water neither expands nor shrinks at 4 °C: an unheated steel line hardly drifts', () =>
    expect(
      Math.abs(
        value('temperature-drift', 'pascalPerKelvin', {
          insideDiameter: 0.3,
          wall: 0.008,
          modulus: 2.07e11,
          poisson: 0.27,
          pipeExpansion: 0,
          waterTemperature: 4,
          restrained: true,
        }),
      ),
    ).toBeLessThan(2500))
  it.each([
    [4, 2.4384, 0.762, 11],
    [4, 6.096, 1.8288, 81],
    [4, 3.6576, 1.2192, 30],
  ])('%# vacuum times stand in the table', (_n, depth, diameter, seconds) =>
    near(value('vacuum-time', 'seconds', { depth, diameter }), seconds, 6),
  )
})

describe('close enough', () => {
  const verdict = (v: number, uncertainty: number, rule = 'guarded') =>
    run('guard-band', { value: v, min: 10, max: 20, uncertainty, rule }).verdict
  it.each([
    [15, 'accept'],
    [11, 'accept'],
    [10.99, 'too-close'],
    [10, 'too-close'],
    [9.01, 'too-close'],
    [9, 'reject'],
    [19, 'accept'],
    [19.5, 'too-close'],
    [21, 'reject'],
  ])('%f between 10 and 20 known to 1: %s', (v, want) => expect(verdict(v, 1)).toBe(want))
  it('without uncertainty nothing is too close', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        (v) => void expect(verdict(v, 0)).toBe(v >= 10 - 1e-9 && v <= 20 + 1e-9 ? 'accept' : 'reject'),
      ),
    ))
  it('under the simple rule too', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        (v, u) => void expect(verdict(v, u, 'simple')).not.toBe('too-close'),
      ),
    ))
  it('a coarser tool never turns a reject into an accept, nor back', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (v, a, b) => {
          const [fine, coarse] = [
            verdict(v, Math.min(a, b)),
            verdict(v, Math.max(a, b)),
          ] as unknown as string[]
          expect([fine, 'too-close']).toContain(coarse)
        },
      ),
    ))
})
