import { showNumber as n } from '../quantity/show'
import { defineCalculator, fail } from './define'
import { notNegative, positive, withDefault } from './input'

const WATER_MODULUS = 2.19e9
const DISCHARGE = 0.61
/** Two sides of a normal distribution, 95 %. */
const NORMAL_95 = 1.96

export const holeFromLeak = defineCalculator({
  key: 'hole-from-leak',
  title: 'Hole that would leak so much',
  inputs: {
    rate: notNegative('flow', 'L/h'),
    pressure: positive('pressure', 'kPa'),
    density: withDefault(positive('density'), 1000),
  },
  outputs: { diameter: 'length' },
  source: 'Sharp round hole: q = 0.61·A·√(2p/ρ).',
  compute({ rate, pressure, density }) {
    const speed = Math.sqrt((2 * pressure) / density)
    const diameter = Math.sqrt((4 * rate) / (Math.PI * DISCHARGE * speed))
    return {
      outputs: { diameter },
      working: () => [`√(2p/ρ) = ${n(speed)} m/s`, `diameter = √(4·q/(π·0.61·v)) = ${n(diameter * 1000)} mm`],
    }
  },
})

export const detectableLeak = defineCalculator({
  key: 'detectable-leak',
  title: 'Least leak that a log could show',
  inputs: {
    length: notNegative('length'),
    insideDiameter: positive('length', 'mm'),
    wall: positive('length', 'mm'),
    modulus: positive('pressure', 'GPa'),
    noise: notNegative('pressure', 'kPa'),
    interval: positive('time', 's'),
    duration: notNegative('time', 'h'),
    resolution: withDefault(notNegative('pressure', 'kPa'), 0),
  },
  outputs: { litresPerHour: 'litresPerHour' },
  source:
    'Half width of the slope’s 95 % interval under white noise, times the storage of water and wall; a forecast.',
  cautions: ['A real log’s noise hangs together: what it could see is found from the log itself.'],
  compute({ length, insideDiameter, wall, modulus, noise, interval, duration, resolution }) {
    const rows = Math.floor(duration / interval + 1e-9) + 1
    if (rows < 2) fail('duration', '{duration} holds fewer than two rows at that {interval}.')
    const spread = Math.sqrt(noise ** 2 + resolution ** 2 / 12)
    const times = interval * Math.sqrt((rows * (rows ** 2 - 1)) / 12)
    const slope = (NORMAL_95 * spread) / times
    const volume = (Math.PI / 4) * insideDiameter ** 2 * length
    const storage = volume * (1 / WATER_MODULUS + insideDiameter / (wall * modulus))
    const litresPerHour = slope * storage * 3.6e6
    return {
      outputs: { litresPerHour },
      working: () => [
        `${rows} rows, spread of a row = ${n(spread)} Pa`,
        `half width of the slope = 1.96 · ${n(spread)} / ${n(times)} = ${n(slope)} Pa/s`,
        `storage = ${n(volume)} m³ · (1/K + D/(e·E)) = ${n(storage * 1e9)} mL a MPa`,
        `least leak = ${n(litresPerHour)} L/h`,
      ],
    }
  },
})
