import { airTestTime } from '../../calculators/gravity-tests'
import { list, notNegative, positive, record, withDefault } from '../../calculators/input'
import { GRAVITY } from '../../calculators/lifting'
import { highestOf } from '../curve'
import { defineTestMethod, judged, met, notBegun, said, type Outcome } from './define'
import { timedLoss } from './timed-loss'

const INCH = 0.0254
const FOOT = 0.3048
const MOST = 62e3

/** How long a main with its laterals must keep the pressure, s. */
export function requiredTime(pipes: readonly { diameter: number; length: number }[], drop: number): number {
  if (pipes.length === 1) return airTestTime.run({ ...pipes[0]!, drop }).outputs.seconds as number
  const sum = (of: (d: number, l: number) => number) =>
    pipes.reduce((s, p) => s + of(p.diameter / INCH, p.length / FOOT), 0)
  const area = sum((d, l) => d * l)
  const k = Math.max(1, 0.000419 * area)
  return (((0.085 * sum((d, l) => d * d * l)) / area) * k * (drop / 6895)) / 0.0015
}

/** A gravity sewer between two manholes: air at low pressure, and how long it stays. */
export const lowPressureAir = defineTestMethod({
  key: 'low-pressure-air',
  title: 'Low-pressure air',
  materials: [],
  air: true,
  parameters: {
    pipes: list(record({ diameter: positive('length', 'mm'), length: positive('length') }), { min: 1 }),
    groundwater: withDefault(notNegative('length'), 0),
    start: withDefault(positive('pressure', 'kPa'), 24e3),
    drop: withDefault(positive('pressure', 'kPa'), 6895),
  },
  words: {
    pipes: { title: 'Main and laterals', why: 'All that is filled with air counts.' },
    groundwater: { title: 'Groundwater over the invert', why: 'Water outside holds a leak shut.' },
    start: { title: 'Pressure at the start', why: 'Over that of the groundwater.' },
    drop: { title: 'Fall that is timed', why: 'Of the standard time.' },
  },
  section: [],
  phases: { fall: 'Timed' },
  numbers: {
    startPressure: { title: 'Pressure at the start', formula: 'start + ρ·g·groundwater' },
    time: { title: 'Time for the fall', formula: 'between rows', bound: 'at least' },
    required: { title: 'Required time', formula: '0.085·D·k/q' },
    thrust: { title: 'Force on the largest plug', formula: 'highest pressure · area' },
    highest: { title: 'Highest pressure', formula: 'as read', bound: 'at most' },
  },
  why: 'A sewer carries no pressure: how long air stays in it shows what would seep.',
  cautions: [
    'A 600 mm plug at 35 kPa carries about 10 kN: plugs braced, nobody in line with them, nobody in the manhole.',
    'Air that cools by 1 K at 20 kPa loses 0.4 kPa: let it settle, and shade it.',
  ],
  evaluate(run): Outcome {
    const { parameters: p, gauge } = run
    const pressure = run.curve('pressure')
    const start = p.start + 1000 * GRAVITY * p.groundwater
    const required = requiredTime(p.pipes, p.drop)
    const highest = highestOf(pressure)
    const largest = Math.max(...p.pipes.map((x) => x.diameter))
    const loss = timedLoss(pressure, start, p.drop, required, gauge.uncertainty, (v, min, U) =>
      run.judge(v, min, null, U),
    )
    const always = {
      startPressure: said(start, 'Pa'),
      required: said(required, 's'),
      thrust: said(highest * (Math.PI / 4) * largest ** 2, 'N'),
      highest: judged(highest, 'Pa', MOST, 0, met(highest <= MOST)),
    }
    if (!loss)
      return {
        ...notBegun('The starting pressure was never there.'),
        numbers: { ...always, time: said(null, 's') },
      }
    return {
      numbers: { ...always, time: loss.number },
      phases: [{ key: 'fall', from: loss.begin, to: loss.time === null ? run.last : loss.begin + loss.time }],
      needed: loss.needed,
      running: loss.running,
      waits: 'It has not fallen so far yet.',
    }
  },
})
