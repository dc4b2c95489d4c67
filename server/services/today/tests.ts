import { standing } from '#core/judgement/standing'
import { WITNESS } from '#core/pressure/ready'
import { showStretch } from '#core/quantity/show'
import { wordedIn } from '#core/quantity/site-units'
import { entriesOfMany, forCore } from '../../db/entries'
import { packsOf, type Pack } from '../../db/packs'
import { wordsFor } from '../../db/projects'
import { witnessAt } from '../pack-sheet'
import { HOUR, type Asking, type TodayItem } from './item'

/** How far ahead a test is due. */
const SOON = 16 * HOUR

/** Pressure tests that run or are due, and those that somebody was invited to see. */
export async function tests(asking: Asking): Promise<TodayItem[]> {
  const { db, project, actor } = asking
  if (actor.crew) return []
  const packs = await packsOf(db, project.id)
  const open = packs.filter((p) => p.state === 'planned' || p.state === 'running')
  return [...due(open, asking), ...(await invited(open, asking))]
}

const due = (open: readonly Pack[], { project, now }: Asking): TodayItem[] =>
  open
    .filter((p) => p.dueAt && Date.parse(p.dueAt) < now + SOON)
    .map((p) => ({
      ...{ kind: 'test', subject: p.id, step: null, place: p.number, station: p.from, crew: null },
      title: p.state === 'running' ? 'Test running' : 'Test due',
      detail: wordedIn(wordsFor(project), () => showStretch(p.from, p.to)),
      ...{ since: null, due: Date.parse(p.dueAt!) },
    }))

/** As long as nobody has come. */
async function invited(open: readonly Pack[], { db, project, now }: Asking): Promise<TodayItem[]> {
  const records = await entriesOfMany(
    db,
    open.map((p) => p.id),
  )
  return open.flatMap((p): TodayItem[] => {
    const invited = witnessAt(project, standing((records.get(p.id) ?? []).map(forCore)))
    if (invited.for === null || invited.for < now - 12 * HOUR) return []
    if (invited.state !== 'invited' && invited.state !== 'accepted') return []
    return [
      {
        ...{ kind: 'invitation', subject: p.id, of: 'pack', step: WITNESS, place: p.number },
        ...{ title: 'Pressure test', station: p.from, crew: null, since: null, due: invited.for },
        detail: invited.state === 'accepted' ? 'The witness will come' : 'The witness has not answered yet',
      },
    ]
  })
}
