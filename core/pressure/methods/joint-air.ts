import { positive, withDefault } from '../../calculators/input'
import { highestOf } from '../curve'
import { defineTestMethod, notBegun, said, type Outcome } from './define'
import { timedLoss } from './timed-loss'

/** One joint of a large pipe, by a seal tester from inside. */
export const jointAir = defineTestMethod({
  key: 'joint-air',
  title: 'One joint under air',
  materials: [],
  air: true,
  part: true,
  parameters: {
    start: withDefault(positive('pressure', 'kPa'), 24e3),
    drop: withDefault(positive('pressure', 'kPa'), 7e3),
    required: withDefault(positive('time', 's'), 5),
  },
  words: {
    start: { title: 'Pressure at the start', why: 'Above that of the groundwater at the joint.' },
    drop: { title: 'Fall that is timed', why: 'Small, as the room between the seals is.' },
    required: { title: 'Required time', why: 'Shorter is a leak.' },
  },
  section: [],
  phases: { fall: 'Timed' },
  numbers: {
    time: { title: 'Time for the fall', formula: 'between rows', bound: 'at least' },
    highest: { title: 'Highest pressure', formula: 'as read' },
  },
  why: 'A pipe too large to fill is tested joint by joint.',
  cautions: ['The tester holds itself by its seals: nobody reaches into it. Vent before it is moved.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge } = run
    const pressure = run.curve('pressure')
    const loss = timedLoss(pressure, p.start, p.drop, p.required, gauge.uncertainty, (v, min, U) =>
      run.judge(v, min, null, U),
    )
    const highest = said(highestOf(pressure), 'Pa')
    if (!loss) return { ...notBegun('The starting pressure was never there.'), numbers: { highest } }
    return {
      numbers: { time: loss.number, highest },
      phases: [{ key: 'fall', from: loss.begin, to: loss.time === null ? run.last : loss.begin + loss.time }],
      needed: loss.needed,
      running: loss.running,
      waits: 'It has not fallen so far yet.',
    }
  },
})
