import { comingPoints } from '../coming'
import { comesToSee, HOUR, type Asking, type TodayItem } from './item'

/** How far ahead points are foreseen. */
const SOON = 2 * HOUR
const words = { H: 'Hold point', W: 'Witness point', S: 'Drawn to be watched' } as const

/** Points that a crew is about to reach. */
export async function coming({ db, project, actor, now, crewName }: Asking): Promise<TodayItem[]> {
  const sees = comesToSee(actor)
  return (await comingPoints(db, project, actor, now))
    .filter((c) => c.forecast.at < now + SOON && (c.witness || !sees))
    .map((c) => ({
      ...{ kind: 'coming', subject: c.joint, step: c.step, title: c.title, place: c.number },
      ...{ station: c.station, crew: crewName(c.crew), since: null, due: c.forecast.at },
      detail: words[sees ? 'W' : c.point],
      span: { from: c.forecast.from, to: c.forecast.to, of: c.forecast.of },
    }))
}
