import { flag, notNegative, optional, positive, withDefault } from '../../calculators/input'
import { between, lowestOf } from '../curve'
import { holdEnd, reachedAt, unpaused } from '../events'
import { defineTestMethod, judged, met, notBegun, said, type Outcome } from './define'

/** A made-up hose: held over its working pressure, its ends neither leak nor move. */
export const hoseProof = defineTestMethod({
  key: 'hose-proof',
  title: 'Hose proof',
  materials: ['hose'],
  part: true,
  parameters: {
    workingPressure: positive('pressure', 'kPa'),
    factor: withDefault(positive('ratio'), 1.5),
    duration: withDefault(positive('time', 'min'), 600),
    maxMovement: withDefault(notNegative('length', 'mm'), 0.0005),
    movement: optional(notNegative('length', 'mm')),
    leakSeen: optional(flag()),
  },
  words: {
    workingPressure: { title: 'Working pressure', why: 'Of the hose and its duty.' },
    factor: { title: 'Proof factor', why: 'Over the working pressure.' },
    duration: { title: 'Duration', why: 'A slipping band shows late.' },
    maxMovement: { title: 'Movement allowed', why: 'Of the mark against the collar.' },
    movement: { title: 'Movement found', why: 'Measured at the mark.' },
    leakSeen: { title: 'Leak seen', why: 'At either end.' },
  },
  section: [],
  phases: { hold: 'Hold' },
  numbers: {
    lowest: { title: 'Lowest pressure', formula: 'factor · working pressure', bound: 'at least' },
    movement: { title: 'Movement of the mark', formula: 'as measured', bound: 'at most' },
    leakSeen: { title: 'Leak seen', formula: 'at either end', flag: true },
  },
  why: 'A band that will slip slips under proof, not in service.',
  cautions: ['Water only, never air. The hose laid straight and tied down; nobody beside it.'],
  evaluate(run): Outcome {
    const { parameters: p, gauge, events, pauses, last } = run
    const wanted = p.factor * p.workingPressure
    const pressure = run.curve('pressure')
    const begin = reachedAt(events, pressure, wanted, gauge.uncertainty)
    if (begin === null) return notBegun('The proof pressure was never there.')
    const end = holdEnd(begin, p.duration, pauses)
    const to = Math.min(end, last)
    const lowest = lowestOf(unpaused(between(pressure, begin, to), pauses))
    const open = p.movement === null || p.leakSeen === null
    return {
      numbers: {
        lowest: judged(
          lowest,
          'Pa',
          wanted,
          gauge.uncertainty,
          run.judge(lowest, wanted, null, gauge.uncertainty),
        ),
        movement:
          p.movement === null
            ? said(null, 'm')
            : judged(p.movement, 'm', p.maxMovement, 0, met(p.movement <= p.maxMovement + 1e-12)),
        leakSeen:
          p.leakSeen === null ? said(null, '') : judged(p.leakSeen ? 1 : 0, '', 0, 0, met(!p.leakSeen)),
      },
      phases: [{ key: 'hold', from: begin, to }],
      needed: last < end ? end - last : null,
      running: last < end || open,
      waits: last < end ? undefined : 'Say how far the mark has moved, and whether a leak was seen.',
    }
  },
})
