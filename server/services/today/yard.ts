import { shelfEnd } from '#core/lots/shelf-life'
import { dayOf } from '#core/quantity/day'
import { deliveriesOf } from '../../db/deliveries'
import { limitedLots } from '../../db/lots'
import { placesOf } from '../../db/yard'
import { HOUR, type Asking, type TodayItem } from './item'

const DAY = 24 * HOUR
const WARN_DAYS = 14

/** Lots of consumables that end soon or have ended, and storage rounds that are due. */
export async function yard({ db, project, actor, now }: Asking): Promise<TodayItem[]> {
  if (actor.crew) return []
  const [lots, places] = await Promise.all([limitedLots(db, project.id), placesOf(db, project.id)])
  const base = { step: null, station: null, crew: null }
  const ending = lots
    .filter((l) => l.kind === 'consumable' && !l.quarantinedAt)
    .flatMap((l): TodayItem[] => {
      const end = shelfEnd(l, project.zone)
      if (!end || end.at > now + WARN_DAYS * DAY) return []
      return [
        {
          ...base,
          kind: 'lot',
          subject: l.id,
          title: end.at < now ? 'Lot past its date' : 'Lot ends soon',
          place: l.lot,
          detail: `${l.title ?? ''}, ${end.why} ${dayOf(end.at, project.zone)}`,
          since: null,
          due: end.at,
        },
      ]
    })
  const rounds = places
    .filter((p) => p.lastRound === null || Date.parse(p.lastRound) + p.everyDays * DAY < now + 12 * HOUR)
    .map((p): TodayItem => ({
      ...base,
      kind: 'round',
      subject: p.id,
      title: 'Storage round due',
      place: p.name,
      detail: p.lastRound ? `every ${p.everyDays} days` : 'not looked at yet',
      since: null,
      due: p.lastRound ? Date.parse(p.lastRound) + p.everyDays * DAY : now,
    }))
  return [...ending, ...rounds]
}

/** Deliveries that are not signed. */
export async function deliveries({ db, project, actor }: Asking): Promise<TodayItem[]> {
  if (actor.crew) return []
  return (await deliveriesOf(db, project.id))
    .filter((d) => d.state === 'open')
    .map((d) => ({
      ...{ kind: 'delivery', subject: d.id, step: null, title: 'Delivery to inspect', place: d.number },
      ...{ station: null, crew: null, since: Date.parse(d.receivedAt), due: null },
      detail: d.waiting > 0 ? `${d.waiting} of ${d.items} items to look at` : 'To be signed',
    }))
}
