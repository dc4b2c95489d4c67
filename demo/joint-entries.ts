import type { EntryKind } from '../core/record/entry'
import type { Random } from './random'

/** One entry of a made-up joint: who writes it, and seconds after the joint's first. */
export interface Made {
  step: string | null
  kind: EntryKind
  payload: Record<string, unknown>
  by: 'lead' | 'inspector'
  after: number
  instrument?: string
}

export interface JointShape {
  od: number
  wall: number
  stab: number
  fusion: number
  cooling: number
}

const mm = (si: number) => `${Number((si * 1000).toFixed(2))} mm`
const yes = { answer: 'yes' }

/** A conforming joint from right-parts to the clamps coming off, in the order and pace of a crew. */
export function conformingJoint(random: Random, shape: JointShape, temperature: number): Made[] {
  let clock = 0
  const made: Made[] = []
  const add = (
    step: string,
    kind: EntryKind,
    payload: Record<string, unknown>,
    seconds: number,
    more: Partial<Made> = {},
  ) => {
    clock += seconds * random.between(0.8, 1.25)
    made.push({ step, kind, payload, by: 'lead', after: Math.round(clock), ...more })
  }
  const readings = (values: number[], show = mm) => ({ values, typed: values.map(show) })
  const about = (centre: number, spread: number, step: number) =>
    Math.round((centre + (random.next() - 0.5) * 2 * spread) / step) * step
  add('right-parts', 'confirmation', yes, 60)
  add('installer', 'confirmation', yes, 20)
  add('instruments', 'confirmation', yes, 15)
  add('tools', 'confirmation', yes, 15)
  add('ppe', 'confirmation', yes, 10)
  add('shelter', 'confirmation', yes, 240)
  add(
    'temperature',
    'reading',
    readings([about(temperature, 2, 0.5)], (v) => `${v} °C`),
    30,
    { instrument: 'thermometer' },
  )
  add('washed', 'confirmation', yes, 300)
  add('sound', 'confirmation', yes, 40)
  add(
    'square',
    'reading',
    readings([
      about(shape.od * 0.005, shape.od * 0.003, 0.0001),
      about(shape.od * 0.005, shape.od * 0.003, 0.0001),
    ]),
    120,
    { instrument: 'square and feeler' },
  )
  add('gouge', 'reading', readings([Math.max(0, about(shape.wall * 0.02, shape.wall * 0.02, 0.0001))]), 90)
  add('scrape-mark', 'confirmation', yes, 90)
  add('peeled', 'confirmation', yes, 420)
  add(
    'peel-depth',
    'reading',
    readings([about(0.0003, 0.00005, 0.00001), about(0.0003, 0.00005, 0.00001)]),
    60,
    { instrument: 'micrometer' },
  )
  add('chamfer', 'confirmation', yes, 60)
  add('stab-mark', 'confirmation', yes, 60)
  add(
    'ovality',
    'reading',
    readings([0, 1, 2, 3].map(() => about(shape.od + 0.0004, Math.min(0.0008, shape.od * 0.004), 0.0001))),
    150,
    { instrument: 'calliper' },
  )
  add('wiped', 'choice', { choice: 'ipa96' }, 120)
  add('untouched', 'confirmation', yes, 60)
  add('bag', 'confirmation', yes, 60)
  add('fresh-wipe', 'confirmation', yes, 40)
  add('stab-check', 'reading', readings([about(0, 0.0015, 0.0005), about(0, 0.0015, 0.0005)]), 180, {
    instrument: 'rule',
  })
  add('clamped', 'confirmation', yes, 240)
  add('before-fusion', 'confirmation', yes, 30)
  add('before-fusion', 'request', {}, 5)
  add('before-fusion', 'release', {}, random.between(240, 1500), { by: 'inspector' })
  add('power', 'confirmation', yes, 90)
  add(
    'controller-time',
    'reading',
    readings([shape.fusion], (v) => `${v} s`),
    40,
  )
  add('fusion-start', 'confirmation', yes, 30)
  const started = clock
  made.push({
    step: 'fusion-run',
    kind: 'clock',
    payload: yes,
    by: 'lead',
    after: Math.round(started + shape.fusion + random.between(5, 60)),
  })
  made.push({
    step: 'cooling',
    kind: 'clock',
    payload: yes,
    by: 'lead',
    after: Math.round(started + shape.fusion + shape.cooling + random.between(30, 900)),
  })
  clock = made.at(-1)!.after
  add('not-moved', 'confirmation', yes, 20)
  add('looks', 'confirmation', yes, 40)
  return made
}

/**
 * The joint up to and with a step; `from` counts back so that the last entry is so many seconds before
 * now.
 */
export const upTo = (made: Made[], step: string, last: 'first' | 'all' = 'all'): Made[] => {
  const at =
    last === 'all' ? made.findLastIndex((m) => m.step === step) : made.findIndex((m) => m.step === step)
  return made.slice(0, at + 1)
}
