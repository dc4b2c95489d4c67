import { exfiltrationAllowance } from '../../calculators/gravity-tests'
import { notNegative, optional, positive } from '../../calculators/input'
import { Problem } from '../../problem'
import { valueAt } from '../curve'
import { eventAt, holdEnd } from '../events'
import { defineTestMethod, judged, said, type NumberWords, type Outcome, type Run } from './define'

const words = {
  rate: { title: 'Allowed, L a mm of diameter, km and day', why: 'Of the project.' },
  duration: { title: 'Duration', why: 'Long enough for the meter to show it.' },
}
const numbers: Record<string, NumberWords> = {
  lost: { title: 'Water through the wall', formula: 'meter at the end − at the begin', bound: 'at most' },
  allowed: { title: 'Water allowed', formula: 'rate · diameter · length · time' },
}

function evaluate(run: Run<{ rate: number; duration: number }>): Outcome {
  const { parameters: p, section, gauge, events, pauses, rows, last } = run
  const meter = run.curve('makeup')
  if (meter.length === 0)
    throw new Problem('missing', 'There is no meter: this test is judged by water.', 'makeup')
  const begin = eventAt(events, 'reached') ?? rows[0]!.t
  const end = holdEnd(begin, p.duration, pauses)
  const at = (t: number) => valueAt(meter, t) ?? (t < meter[0]!.t ? meter[0]!.v : meter.at(-1)!.v)
  const lost = Math.abs(at(Math.min(end, last)) - at(begin)) * 1000
  const allowed = exfiltrationAllowance.run({
    length: section.length,
    diameter: section.nominal,
    rate: p.rate,
    duration: p.duration,
  }).outputs.litres as number
  const U = gauge.meterUncertainty * lost
  return {
    numbers: {
      lost: judged(lost, 'L', allowed, U, run.judge(lost, null, allowed, U)),
      allowed: said(allowed, 'L'),
    },
    phases: [{ key: 'hold', from: begin, to: Math.min(end, last) }],
    needed: last < end ? end - last : null,
    running: last < end,
  }
}

/** A gravity line full of water: what seeps out of it. */
export const exfiltration = defineTestMethod({
  key: 'exfiltration',
  title: 'Exfiltration',
  materials: [],
  parameters: {
    rate: positive('ratio'),
    duration: positive('time', 'h'),
    head: optional(notNegative('length')),
  },
  words: { ...words, head: { title: 'Water over the crown', why: 'Said in the report.' } },
  section: ['length', 'nominal'],
  phases: { hold: 'Measured' },
  numbers,
  why: 'Water shows what air cannot: what a wet pipe loses at its own head.',
  cautions: ['Soak concrete for a day first. Plugs braced; nobody in line with them.'],
  evaluate,
})

/** A gravity line below the groundwater: what seeps into it. */
export const infiltration = defineTestMethod({
  key: 'infiltration',
  title: 'Infiltration',
  materials: [],
  parameters: { rate: positive('ratio'), duration: positive('time', 'h') },
  words,
  section: ['length', 'nominal'],
  phases: { hold: 'Measured' },
  numbers,
  why: 'Where the groundwater stands over the pipe it is the better test.',
  cautions: ['Nobody enters a manhole without testing its air.'],
  evaluate,
})
