import type { Role } from '../../core/access'
import type { Entry, EntryKind } from '../../core/record/entry'

export const facts180 = {
  'pipe.od': 0.18,
  'pipe.wall': 0.0164,
  'pipe.rating': 16e5,
  'fitting.width': 0.19,
  'fitting.stop': 0.094,
  'fitting.rating': 16e5,
  'fitting.fusionTime': 210,
  'fitting.coolingTime': 1200,
  'line.designPressure': 10e5,
}

export const T0 = Date.UTC(2026, 2, 9, 8, 0, 0)
let n = 0
/** An entry made at a minute after T0; ids rise with every call. */
export function entry(
  step: string | null,
  kind: EntryKind,
  payload: Record<string, unknown>,
  minute = ++n / 100,
  more: Partial<Entry> & { role?: Role } = {},
): Entry {
  const id = `01900000-0000-7000-8000-${String(++n).padStart(12, '0')}`
  return {
    id,
    kind,
    step,
    payload,
    person: 'mara',
    role: 'crew-lead',
    crew: 'north',
    instrument: null,
    recordedAt: T0 + minute * 60_000,
    ...more,
  }
}
export const yes = (step: string, minute?: number, more?: Partial<Entry>) =>
  entry(step, 'confirmation', { answer: 'yes' }, minute, more)
export const read = (step: string, values: number[], minute?: number, more?: Partial<Entry>) =>
  entry(step, 'reading', { values, typed: values.map(String) }, minute, more)

/** A whole conforming joint up to `last`; fusion starts at minute 30. */
export function conforming(): Entry[] {
  const list: Entry[] = [
    yes('right-parts', 1),
    yes('installer', 2),
    yes('instruments', 2.2),
    yes('tools', 2.4),
    yes('ppe', 2.6),
    yes('shelter', 3),
    read('temperature', [14], 4),
    yes('washed', 5),
    yes('sound', 5.5),
    read('square', [0.001, 0.0012], 6),
    read('gouge', [0.0002], 7),
    yes('scrape-mark', 8),
    yes('peeled', 12),
    read('peel-depth', [0.00028, 0.0003], 13),
    yes('chamfer', 14),
    yes('stab-mark', 15),
    read('ovality', [0.1802, 0.1803, 0.1799, 0.18], 16),
    entry('wiped', 'choice', { choice: 'ipa96' }, 18),
    yes('untouched', 18.5),
    yes('bag', 19),
    yes('fresh-wipe', 19.5),
    read('stab-check', [0.001, -0.0005], 21),
    yes('clamped', 22),
    yes('before-fusion', 23),
    entry('before-fusion', 'request', {}, 23.1),
    entry('before-fusion', 'release', {}, 26, { person: 'ines', role: 'inspector' }),
    yes('power', 27),
    read('controller-time', [210], 28),
    yes('fusion-start', 30),
    entry('fusion-run', 'clock', { answer: 'yes' }, 34),
    entry('cooling', 'clock', { answer: 'yes' }, 54),
    yes('not-moved', 55),
    yes('looks', 56),
  ]
  return list
}
