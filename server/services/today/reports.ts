import { endOfDay } from '#core/quantity/day'
import { ncrsOf, type Ncr } from '../../db/ncrs'
import { waitsForClient } from '../concession'
import { comesToSee, type Asking, type TodayItem } from './item'

/** What a report that is not closed waits for. */
const waitsFor = (n: Ncr): string =>
  ({
    open: 'Waits for the engineer’s disposition',
    disposed: `To do: ${n.disposition}`,
    reworked: 'Rework waits to be verified',
    closed: '',
  })[n.state]

/** Reports of nonconformances that are not closed; a concession waits for the client where the plan says so. */
export async function reports({ db, project, actor, crewName }: Asking): Promise<TodayItem[]> {
  const open = (await ncrsOf(db, project.id, { crew: actor.crew })).filter((n) => n.state !== 'closed')
  const about = (n: Ncr) => ({
    ...{ subject: n.id, step: n.step, title: n.number, place: n.place, station: null },
    ...{ crew: crewName(n.crew), since: Date.parse(n.raisedAt) },
  })
  const items = open.map((n): TodayItem => ({
    ...{ ...about(n), kind: 'ncr', detail: waitsFor(n) },
    due: n.due === null || n.state === 'reworked' ? null : endOfDay(n.due, project.zone),
  }))
  for (const n of comesToSee(actor) ? open : [])
    if (n.disposition === 'use-as-is' && (await waitsForClient(db, project, n)))
      items.push({
        ...{ ...about(n), kind: 'concession', due: null },
        detail: 'A concession waits for the client’s word',
      })
  return items
}
