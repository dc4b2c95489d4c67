import { airTestTime, exfiltrationAllowance, vacuumTime } from '../core/calculators/gravity-tests'
import { hydroAllowance } from '../core/calculators/hydro'
import { driftOf } from '../core/pressure/temperature'
import { readSection } from '../core/pressure/section'

/** A made-up pipe whose leak is known, and the noise of the instruments on it. */
export interface Case {
  method: string
  parameters: Record<string, unknown>
  section: Record<string, unknown>
  gauge: { uncertainty: number; resolution: number }
  /** share of the limit about it within which no decision is right or wrong; a fiftieth when not said */
  blur?: number
  /**
   * Rows of a log whose leak is so many times the limit.
   *
   * @param rough a draw between −1 and 1, nothing when the truth is asked
   * @param swing K by which the water warms or cools over the test
   */
  rows(times: number, rough: () => number, swing: number): (number | null)[][]
}

const HOUR = 3600
const length = 400
const pipe = { length, insideDiameter: 0.3, wall: 0.008, modulus: 170e9, nominal: 0.3 }
const steel = {
  ...{ length, insideDiameter: 0.2, wall: 0.006, modulus: 200e9 },
  ...{ poisson: 0.3, pipeExpansion: 12e-6, restrained: true },
}
const pe = { length, insideDiameter: 0.2578, wall: 0.0286, modulus: 900e6 }
const water = 12
const every = (step: number, until: number, row: (t: number) => (number | null)[]) =>
  Array.from({ length: Math.floor(until / step) + 1 }, (_v, i) => row(i * step))

const makeup: Case = {
  ...{ method: 'hydro-makeup', parameters: { testPressure: 15e5 }, section: pipe },
  gauge: { uncertainty: 2500, resolution: 500 },
  rows(times, rough) {
    const perHour = hydroAllowance.run({ length, diameter: 0.3, pressure: 15e5 }).outputs
      .litresPerHour as number
    return every(20, 2.6 * HOUR, (t) => {
      const held = Math.max(0, t - 900)
      const pressure = t < 900 ? (15e5 * t) / 900 : 15e5 + 5000 - ((held % 1500) / 1500) * 9000
      return [
        t,
        pressure + rough() * 900,
        water,
        null,
        ((times * perHour * held) / HOUR / 1000) * (1 + rough() * 0.002),
      ]
    })
  },
}

const drop: Case = {
  ...{ method: 'hydro-drop', parameters: { testPressure: 15e5 }, section: steel },
  gauge: { uncertainty: 2500, resolution: 200 },
  rows(times, rough, swing) {
    const k = (at: number) => driftOf(readSection(steel, []) as never, at)
    return every(20, 2 * HOUR, (t) => {
      const held = Math.max(0, t - 900)
      const warmer = t < 900 ? 0 : swing * Math.sin((Math.PI * (t - 900)) / (4 * HOUR))
      const pressure =
        t < 900
          ? (15e5 * t) / 900
          : 15e5 + 3000 - (times * 20e3 * held) / HOUR + k(water + warmer / 2) * warmer
      return [t, pressure + rough() * 700, water + warmer + rough() * 0.005, null, null]
    })
  },
}

const crept = (t: number) => 12.04e5 - 0.66e5 * Math.log(1 + t / 700)
const threePhase: Case = {
  ...{ method: 'pe-three-phase', parameters: { testPressure: 12e5 }, section: pe },
  gauge: { uncertainty: 2500, resolution: 200 },
  rows(times, rough) {
    const rise = 16e3
    const released = 0.012
    return every(20, 600 + 1860 + HOUR + 120 + 5700, (t) => {
      const noise = rough() * 500
      if (t < 600) return [t, (12.05e5 * t) / 600 + noise, water, null, (0.2 * t) / 600]
      if (t < 2460) return [t, 12.04e5 + noise, water, null, 0.2]
      const rest = t - 2460
      if (rest < HOUR) return [t, crept(rest) + noise, water, null, 0.2]
      const after = rest - HOUR
      const low = crept(HOUR) * (1 - 0.125 * Math.min(1, after / 120))
      if (after < 120) return [t, low + noise, water, null, 0.2 - (released * after) / 120]
      const free = after - 120
      const pull = rise * (1 - Math.exp(-free / 500)) - (times * rise * free) / 1800
      return [t, low + pull + noise, water, null, 0.2 - released]
    })
  },
}

const expansion: Case = {
  ...{ method: 'pe-expansion', parameters: { testPressure: 12.5e5 }, section: pe },
  gauge: { uncertainty: 2500, resolution: 200 },
  rows(times, rough) {
    return every(60, 600 + 4.1 * HOUR + 180 + HOUR + 300, (t) => {
      const noise = rough() * 600
      const kept = 600 + 4.1 * HOUR
      if (t < 600) return [t, (12.52e5 * t) / 600 + noise, water, null, 0.1]
      if (t < kept) return [t, 12.5e5 - (t % 900) * 12 + noise, water, null, 0.2]
      const after = t - kept
      if (after < 180) return [t, 12.46e5 - (70e3 * after) / 180 + noise, water, null, 0.2]
      const free = after - 180
      const fall = (times * 0.05 * 11.76e5 * free) / HOUR
      return [t, 11.76e5 + 6000 * (1 - Math.exp(-free / 700)) - fall + noise, water, null, 0.2]
    })
  },
}

/** A test that times how long a pressure or a vacuum takes to go; it is bled down to where the timing begins. */
const timed = (
  method: string,
  parameters: Record<string, unknown>,
  /** Pa: where the timing begins, and what is lost in `seconds` at the limit */
  { start, loss, seconds }: { start: number; loss: number; seconds: number },
): Case => ({
  ...{ method, parameters, section: { length: 60, insideDiameter: 0.6 } },
  gauge: { uncertainty: Math.min(100, loss / 50), resolution: 10 },
  rows(times, rough) {
    const [raise, bleed] = [60, 20]
    const peak = start * 1.04
    return every(Math.max(0.1, seconds / 300), raise + bleed + seconds * 2.4, (t) => {
      const noise = rough() * 20
      if (t < raise) return [t, (peak * t) / raise + noise, null, null, null]
      if (t < raise + bleed)
        return [t, peak + ((start * 0.999 - peak) * (t - raise)) / bleed + noise, null, null, null]
      const left = Math.abs(start * 0.999) - (times * loss * (t - raise - bleed)) / seconds
      return [t, Math.sign(start) * Math.max(0, left) + noise, null, null, null]
    })
  },
})

const seep = (method: string): Case => ({
  ...{ method, parameters: { rate: 9.3, duration: 2 * HOUR }, section: { length: 60, nominal: 0.6 } },
  gauge: { uncertainty: 100, resolution: 10 },
  rows(times, rough) {
    const litres = exfiltrationAllowance.run({ length: 60, diameter: 0.6, rate: 9.3, duration: 2 * HOUR })
      .outputs.litres as number
    return every(30, 2.1 * HOUR, (t) => [
      ...[t, 20e3, null, null],
      (times * (litres / 1000) * t * (1 + rough() * 0.003)) / (2 * HOUR),
    ])
  },
})

const hose: Case = {
  method: 'hose-proof',
  parameters: { workingPressure: 10e5, movement: 0.0002, leakSeen: false },
  section: {},
  gauge: { uncertainty: 2500, resolution: 200 },
  rows: (times, rough) =>
    every(5, 1000, (t) => {
      const held = Math.max(0, t - 120)
      return [
        t,
        (t < 120 ? (15.1e5 * t) / 120 : 15.1e5 - (times * 10e3 * held) / 600) + rough() * 500,
        null,
        null,
        null,
      ]
    }),
}

const casing: Case = {
  // Its limit is what the gauge can be wrong: there is no guard band beyond it.
  blur: 0.3,
  ...{ method: 'casing-air', parameters: {}, section: {} },
  gauge: { uncertainty: 100, resolution: 10 },
  rows: (times, rough) =>
    every(1, 200, (t) => {
      const pressure = t < 30 ? (20.3e3 * t) / 30 : 20.3e3 - (times * 141 * (t - 30)) / 120
      return [t, pressure + rough() * 20, 21, null, null]
    }),
}

const sewer = { pipes: [{ diameter: 0.6, length: 60 }], groundwater: 0.4 }
const sewerTime = airTestTime.run({ diameter: 0.6, length: 60 }).outputs.seconds as number
const manhole = { diameter: 1.2, depth: 2.6 }
const manholeTime = vacuumTime.run(manhole).outputs.seconds as number
/** groundwater raises where the timing begins */
const sewerStart = 24e3 + 1000 * 9.80665 * sewer.groundwater
/** Each method with a pipe that it is meant for. The limit of a leak is what the method calls one. */
export const cases: readonly Case[] = [
  ...[makeup, drop, threePhase, expansion],
  timed('low-pressure-air', sewer, { start: sewerStart, loss: 6895, seconds: sewerTime }),
  timed('vacuum-manhole', manhole, { start: -34e3, loss: 3.4e3, seconds: manholeTime }),
  ...[seep('exfiltration'), seep('infiltration'), casing, hose],
  timed('joint-air', {}, { start: 24e3, loss: 7e3, seconds: 5 }),
]
