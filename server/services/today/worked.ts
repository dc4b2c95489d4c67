import { livelyJoints, type Joint } from '../../db/joints'
import { livelyReaches } from '../../db/reaches'
import type { Worked } from '../../db/worked'
import { HOUR, type Asking, type TodayItem } from './item'

type Base = Pick<TodayItem, 'subject' | 'of' | 'place' | 'station' | 'crew'>

/** Where people stand at a hold. */
const holds = ({ summary }: Worked, base: Base): TodayItem[] =>
  summary.holds.map((h) => ({
    ...{ ...base, kind: 'hold', step: h.step, title: h.title },
    ...{ detail: 'Release requested', since: h.since, due: null },
  }))

const invitations = ({ summary }: Worked, base: Base): TodayItem[] =>
  (summary.invited ?? []).map((i) => ({
    ...{ ...base, kind: 'invitation', step: i.step, title: i.title },
    detail: i.state === 'accepted' ? 'The witness will come' : 'The witness has not answered yet',
    ...{ since: null, due: i.for },
  }))

/** What is asked of the crew waits for its lead, and for an inspector who may answer for it. */
const queries = ({ summary }: Worked, base: Base, { actor }: Asking): TodayItem[] =>
  (summary.asked ?? [])
    .filter((a) => actor.crew !== null || a.to === 'inspector')
    .map((a) => ({
      ...{ ...base, kind: 'query', step: a.step, title: a.title },
      detail: `${a.kind === 'query' ? 'Asked' : 'Condition of the release'}: ${a.text}`,
      ...{ since: a.since, due: null },
    }))

const drafts = ({ summary }: Worked, base: Base): TodayItem[] =>
  summary.drafts.map((d) => ({
    ...{ ...base, kind: 'draft', step: d.step, title: 'Nonconformance drafted' },
    ...{ detail: `${d.criterion} – found: ${d.reading}`, since: null, due: null },
  }))

/** Clocks that run out within the shift, and what is to be done once they have. */
const clocks = ({ summary }: Worked, base: Base, { now }: Asking): TodayItem[] =>
  summary.clocks.flatMap((c): TodayItem[] => {
    const about = { ...base, step: c.step, title: c.title, due: c.until }
    if (c.until > now + 12 * HOUR) return []
    if (c.until > now)
      return [{ ...about, kind: 'clock', detail: c.action ?? 'Runs by itself', since: c.startedAt }]
    return c.action ? [{ ...about, kind: 'action', detail: c.action, since: c.until }] : []
  })

/** What joints and reaches ask of somebody. */
export async function atWork(asking: Asking): Promise<TodayItem[]> {
  const { db, project, actor, crewName } = asking
  const [joints, reaches] = await Promise.all([
    livelyJoints(db, project.id, actor.crew),
    livelyReaches(db, project.id, actor.crew),
  ])
  const asks = (subject: Worked, base: Base) =>
    [holds, invitations, queries, drafts, clocks].flatMap((kind) => kind(subject, base, asking))
  const baseOf = ({ id, crew }: Worked) => ({ subject: id, crew: crewName(crew) })
  return [
    ...joints.flatMap((j: Joint) => asks(j, { ...baseOf(j), place: j.number, station: j.station })),
    ...reaches.flatMap((r) => asks(r, { ...baseOf(r), of: 'reach', place: r.name, station: r.from })),
  ]
}
