import { notNegative, positive, withDefault } from '../../calculators/input'
import { between, valueAt } from '../curve'
import { holdEnd, reachedAt, unpaused } from '../events'
import { missing, stiffness } from '../section'
import { robustSlope } from '../slope'
import { correctHold, laggedTemperature } from '../temperature'
import { defineTestMethod, judged, met, notBegun, said, type Outcome } from './define'

/** A full, closed pipe that does not creep: how fast its pressure falls, the temperature taken out. */
export const hydroDrop = defineTestMethod({
  key: 'hydro-drop',
  title: 'Pressure drop',
  materials: ['steel', 'fibreglass', 'FRP', 'iron', 'PVC', 'CPVC', 'ABS'],
  parameters: {
    testPressure: positive('pressure', 'kPa'),
    settle: withDefault(notNegative('time', 'min'), 1800),
    duration: withDefault(positive('time', 'h'), 3600),
    maxRate: withDefault(positive('pressure', 'kPa'), 20e3),
    lag: withDefault(notNegative('time', 's'), 0),
  },
  words: {
    testPressure: { title: 'Test pressure at the gauge', why: 'Of the approved plan.' },
    settle: { title: 'Settling', why: 'Air dissolves and the water takes the temperature of the pipe.' },
    duration: { title: 'Duration', why: 'Long enough for the gauge to see the leak that matters.' },
    maxRate: { title: 'Allowed fall in an hour', why: 'Of the project; a default to be confirmed.' },
    lag: { title: 'Lag of the sensor', why: 'The water follows the wall slowly.' },
  },
  section: ['length', 'insideDiameter', 'wall', 'modulus'],
  phases: { settle: 'Settling', hold: 'Hold' },
  numbers: {
    drop: { title: 'Fall as read', formula: 'first − last of the hold' },
    temperatureEffect: { title: 'Of it by temperature', formula: 'k · (water at the end − at the begin)' },
    rate: { title: 'Fall in an hour, corrected', formula: 'median of slopes', bound: 'at most' },
    leak: { title: 'A leak of this size would do it', formula: '−slope · V·(1/K + c·D/(e·E))' },
    detectable: { title: 'Smallest leak that this log shows', formula: 'half its interval' },
    added: { title: 'Water added in the hold', formula: 'by the meter', bound: 'at most' },
  },
  why: 'A rigid pipe falls by what leaks and by what cools; the second is worked out and taken away.',
  cautions: ['Stored energy: nobody over or in front of a closure. Vent before loosening anything.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, section, events, pauses, last, judge } = run
    const sensor = run.curve('pipe')
    if (sensor.length > 0)
      for (const key of ['poisson', 'pipeExpansion', 'restrained'] as const)
        if (section[key] === null) missing(key)
    const pressure = run.curve('pressure')
    const reached = reachedAt(events, pressure, p.testPressure, gauge.uncertainty)
    if (reached === null) return notBegun('The test pressure was never reached.')
    const begin = holdEnd(reached, p.settle, pauses)
    const end = holdEnd(begin, p.duration, pauses)
    const settling = { key: 'settle', from: reached, to: Math.min(begin, last) }
    if (last <= begin)
      return { numbers: {}, phases: [settling], needed: end - last, running: true, waits: 'It settles.' }
    const to = Math.min(end, last)
    const hold = unpaused(between(pressure, begin, to), pauses)
    const correction = correctHold(hold, laggedTemperature(sensor, p.lag), section)
    const trend = robustSlope(correction?.corrected ?? hold, gauge.resolution)
    const meter = run.curve('makeup')
    const poured =
      meter.length > 0
        ? (valueAt(meter, to) ?? meter.at(-1)!.v) - (valueAt(meter, begin) ?? meter[0]!.v)
        : null
    const running = last < end
    const takes = stiffness(section) * 3.6e6
    const rate = trend && -trend.slope * 3600
    const U = trend ? trend.half * 3600 : 0
    return {
      numbers: {
        drop: said(hold[0]!.v - hold.at(-1)!.v, 'Pa'),
        temperatureEffect: said(correction && correction.k * correction.moved, 'Pa'),
        rate:
          rate === null
            ? said(null, 'Pa/h')
            : running
              ? { value: rate, unit: 'Pa/h', limit: p.maxRate, uncertainty: U }
              : judged(rate, 'Pa/h', p.maxRate, U, judge(rate, null, p.maxRate, U)),
        leak: said(trend && -trend.slope * takes, 'L/h'),
        detectable: said(trend && trend.half * takes, 'L/h'),
        ...(poured === null ? {} : { added: judged(poured * 1000, 'L', 0, 0, met(poured <= 1e-9)) }),
      },
      phases: [settling, { key: 'hold', from: begin, to }],
      needed: running ? end - last : null,
      running: running || rate === null,
      ...(rate === null && !running ? { waits: 'Too few readings to tell how fast it falls.' } : {}),
      cautions: correction ? [] : ['No temperature was read: nothing is taken out for it.'],
    }
  },
})
