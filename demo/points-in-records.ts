import type { InterventionPoint } from '../core/procedure/types'
import type { SampleEntry } from './system-records'

/** What a record has beside its answers where the plan has somebody come: a joint made as the plan wants it. */
export type PointedEntry = Omit<SampleEntry, 'by'> & { by: SampleEntry['by'] | 'witness' }

/** How long a crew waits for its release, min. */
const WAIT = 6
/** How long before the joint the witness is told, and before that the witness answers, min. */
const NOTICE = 150

/** Every answer at a hold point is followed by a request and a release, where it has none of its own. */
export function withHolds(
  entries: readonly PointedEntry[],
  points: Readonly<Record<string, InterventionPoint | null>>,
): PointedEntry[] {
  let later = 0
  return entries.flatMap((e): PointedEntry[] => {
    const minute = e.minute + later
    const own = entries.some((o) => o.step === e.step && (o.kind === 'request' || o.kind === 'release'))
    if (points[e.step] !== 'H' || own || e.by !== 'lead') return [{ ...e, minute }]
    later += WAIT
    return [
      { ...e, minute },
      { step: e.step, kind: 'request', payload: {}, by: 'lead', minute: minute + 0.1 },
      { step: e.step, kind: 'release', payload: {}, by: 'inspector', minute: minute + WAIT },
    ]
  })
}

/**
 * The witness was invited, said that he comes, and came: to the minute, or so much later than he was asked
 * for.
 *
 * @param start ms of the entries' first minute
 * @param late min
 */
export function withWitness(
  entries: readonly PointedEntry[],
  points: Readonly<Record<string, InterventionPoint | null>>,
  start: number,
  late: number,
): PointedEntry[] {
  const at = entries.find((e) => points[e.step] === 'W')
  if (!at) return [...entries]
  const asked = new Date(start + (at.minute - 1 - late) * 60_000).toISOString()
  const say = (kind: PointedEntry['kind'], by: PointedEntry['by'], minute: number, payload: object) => ({
    ...{ step: at.step, kind, by, minute, payload: { ...payload } },
  })
  return [
    say('invitation', 'lead', at.minute - late - NOTICE, { for: asked }),
    say('reply', 'witness', at.minute - late - NOTICE + 12, { accepts: true }),
    ...entries.filter((e) => e.minute < at.minute),
    say('attendance', 'witness', at.minute - 0.5, { present: true }),
    ...entries.filter((e) => e.minute >= at.minute),
  ]
}
