import type { StoredEntry } from '../server/db/entries'
import { upTo, type Made } from './joint-entries'
import { HOUR, MINUTE, write, type Ground } from './ground'

/** Writes what was made, as the crew lead and an inspector in turn. */
export async function writeJoint(g: Ground, joint: string, lead: string, made: Made[], startedAt: number) {
  let entries: StoredEntry[] = []
  for (let i = 0; i < made.length;) {
    let k = i
    while (k < made.length && made[k]!.by === made[i]!.by) k++
    entries = await write(
      g,
      'joint',
      joint,
      made[i]!.by === 'lead' ? lead : 'ines',
      made.slice(i, k).map((m) => ({
        kind: m.kind,
        step: m.step,
        payload: m.payload,
        instrument: m.instrument ? g.instruments[m.instrument] : null,
        at: startedAt + m.after * 1000,
      })),
      entries,
    )
    i = k
  }
  return entries
}

const replace = (made: Made[], step: string, payload: Record<string, unknown>): Made[] =>
  made.map((m) => (m.step === step && m.kind !== 'request' && m.kind !== 'release' ? { ...m, payload } : m))

/** Plays a joint so that it stands in its scene now. */
export async function playScene(
  g: Ground,
  id: string,
  lead: string,
  scene: string,
  made: Made[],
): Promise<StoredEntry[]> {
  const { now } = g
  const endAt = (list: Made[], end: number) => writeJoint(g, id, lead, list, end - list.at(-1)!.after * 1000)
  const at = (step: string) => made.find((m) => m.step === step)!.after * 1000
  switch (scene) {
    case 'accepted':
      return endAt(made, now - 20 * HOUR)
    case 'cooling-test':
      return endAt(made, now - 25 * MINUTE)
    case 'cooling':
      return writeJoint(g, id, lead, upTo(made, 'fusion-run'), now - at('fusion-start') - 21 * MINUTE)
    case 'fusion':
      return writeJoint(g, id, lead, upTo(made, 'fusion-start'), now - at('fusion-start') - 3 * MINUTE)
    case 'held':
      return endAt(
        upTo(made, 'before-fusion').filter((m) => m.kind !== 'release'),
        now - 6 * MINUTE,
      )
    case 'held-long':
      return endAt(
        upTo(made, 'before-fusion').filter((m) => m.kind !== 'release'),
        now - 34 * MINUTE,
      )
    case 'refused': {
      const list = upTo(made, 'before-fusion').map((m) =>
        m.kind === 'release'
          ? {
              ...m,
              kind: 'refusal' as const,
              payload: { reason: 'Downstream pipe hangs; support it within a metre of the clamp.' },
            }
          : m,
      )
      return endAt(list, now - 15 * MINUTE)
    }
    case 'too-close':
      return endAt(
        replace(upTo(made, 'ovality'), 'ovality', {
          values: [0.3169, 0.3152, 0.314, 0.3155],
          typed: ['316.9', '315.2', '314', '315.5'],
        }),
        now - 9 * MINUTE,
      )
    case 'in-work':
      return endAt(upTo(made, 'peel-depth'), now - 4 * MINUTE)
    case 'past-hold':
      return endAt(
        upTo(made, 'fusion-run').filter((m) => m.kind !== 'release' && m.kind !== 'request'),
        now - 50 * MINUTE,
      )
    case 'rejected':
      return endAt(
        replace(upTo(made, 'controller-time'), 'controller-time', { values: [360], typed: ['360 s'] }),
        now - 26 * HOUR,
      )
    case 'reworked':
      return endAt(
        replace(upTo(made, 'square'), 'square', { values: [0.0081, 0.0021], typed: ['8.1', '2.1'] }),
        now - 30 * HOUR,
      )
    case 'struck': {
      const entries = await endAt(
        replace(upTo(made, 'temperature'), 'temperature', { values: [61], typed: ['61 °C'] }),
        now - 3 * MINUTE,
      )
      const wrong = entries.at(-1)!
      const struck = await write(
        g,
        'joint',
        id,
        lead,
        [
          {
            kind: 'correction',
            step: 'temperature',
            payload: { strikes: wrong.id, reason: 'Thermometer lay in the sun' },
            at: now - 2 * MINUTE,
          },
        ],
        entries,
      )
      return write(
        g,
        'joint',
        id,
        lead,
        [
          {
            kind: 'reading',
            step: 'temperature',
            payload: { values: [13.5], typed: ['13.5'] },
            instrument: g.instruments.thermometer,
            at: now - MINUTE,
          },
        ],
        struck,
      )
    }
    default:
      return []
  }
}
