import { vacuumTime } from '../../calculators/gravity-tests'
import { positive, quantity, withDefault } from '../../calculators/input'
import { defineTestMethod, notBegun, said, type Outcome } from './define'
import { timedLoss } from './timed-loss'

/** A manhole under vacuum, and how long it keeps it. */
export const vacuumManhole = defineTestMethod({
  key: 'vacuum-manhole',
  title: 'Manhole under vacuum',
  materials: [],
  air: true,
  part: true,
  parameters: {
    diameter: positive('length', 'mm'),
    depth: positive('length'),
    start: withDefault(quantity('pressure', { below: 0 }, 'kPa'), -34e3),
    loss: withDefault(positive('pressure', 'kPa'), 3400),
  },
  words: {
    diameter: { title: 'Inside diameter', why: 'The time follows from it.' },
    depth: { title: 'Depth', why: 'The time follows from it.' },
    start: { title: 'Vacuum at the start', why: 'Ten inches of mercury.' },
    loss: { title: 'Loss that is timed', why: 'One inch of mercury.' },
  },
  section: [],
  phases: { loss: 'Timed' },
  numbers: {
    time: { title: 'Time for the loss', formula: 'between rows', bound: 'at least' },
    required: { title: 'Required time', formula: 'by diameter and depth' },
  },
  why: 'Vacuum pulls at every joint of a manhole at once.',
  cautions: ['Nobody in the manhole. Plugs braced against the pull.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge } = run
    const required = vacuumTime.run({ diameter: p.diameter, depth: p.depth }).outputs.seconds as number
    const loss = timedLoss(
      run.curve('pressure'),
      p.start,
      p.loss,
      required,
      gauge.uncertainty,
      (v, min, U) => run.judge(v, min, null, U),
      -1,
    )
    if (!loss)
      return { ...notBegun('The vacuum was never there.'), numbers: { required: said(required, 's') } }
    return {
      numbers: { time: loss.number, required: said(required, 's') },
      phases: [{ key: 'loss', from: loss.begin, to: loss.time === null ? run.last : loss.begin + loss.time }],
      needed: loss.needed,
      running: loss.running,
      waits: 'It has not lost so much yet.',
    }
  },
})
