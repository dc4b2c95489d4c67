import { positive, quantity, withDefault } from '../../calculators/input'
import { between, highestOf, lowestOf, valueAt } from '../curve'
import { holdEnd, reachedAt } from '../events'
import { defineTestMethod, judged, met, notBegun, said, type Outcome } from './define'

/** The casing of a pre-insulated joint before it is foamed: air that must not fall at all. */
export const casingAir = defineTestMethod({
  key: 'casing-air',
  title: 'Casing under air',
  materials: [],
  air: true,
  part: true,
  parameters: {
    pressure: withDefault(positive('pressure', 'kPa'), 20e3),
    duration: withDefault(positive('time', 'min'), 120),
    maxTemperature: withDefault(quantity('temperature', {}, '°C'), 40),
  },
  words: {
    pressure: { title: 'Air pressure', why: 'Enough to find a pinhole with soap.' },
    duration: { title: 'Duration', why: 'Soaped meanwhile.' },
    maxTemperature: { title: 'Casing below', why: 'A warm sleeve closes a leak that opens when it cools.' },
  },
  section: [],
  phases: { hold: 'Hold' },
  numbers: {
    drop: { title: 'Fall', formula: 'as far as the gauge can tell', bound: 'at most' },
    temperature: { title: 'Casing at the begin', formula: 'as read', bound: 'at most' },
  },
  why: 'A sleeve that lets air by lets water into the foam.',
  cautions: ['Air stores energy: not above the pressure named; nobody in front of the vents.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, events, pauses, last } = run
    const pressure = run.curve('pressure')
    const begin = reachedAt(events, pressure, p.pressure, gauge.uncertainty)
    if (begin === null) return notBegun('The pressure was never there.')
    const end = holdEnd(begin, p.duration, pauses)
    const to = Math.min(end, last)
    const drop = (valueAt(pressure, begin) ?? 0) - (valueAt(pressure, to) ?? 0)
    const U = Math.SQRT2 * gauge.uncertainty
    const casing = run.curve('pipe')
    const warm = valueAt(casing, begin) ?? casing.find((x) => x.t >= begin)?.v ?? null
    const hold = between(casing, begin, to)
    const moved = hold.length > 1 ? highestOf(hold) - lowestOf(hold) : 0
    return {
      numbers: {
        drop: judged(drop, 'Pa', 0, U, met(drop <= U + 1e-9)),
        temperature:
          warm === null
            ? said(null, '°C')
            : judged(warm, '°C', p.maxTemperature, 0, met(warm < p.maxTemperature)),
      },
      phases: [{ key: 'hold', from: begin, to }],
      needed: last < end ? end - last : null,
      running: last < end,
      cautions:
        moved > 0.2 ? [`The casing changed by ${moved.toFixed(1)} K: that alone moves the pressure.`] : [],
    }
  },
})
