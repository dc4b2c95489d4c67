import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { dayOf, isDay } from '#core/quantity/day'
import { shelfEnd, shelfState } from '#core/lots/shelf-life'
import { standing } from '#core/judgement/standing'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore, type StoredEntry } from '../db/entries'
import { itemsWhere } from '../db/items'
import { addLots, findLot, lotsPage, saveLotDates, setLotQuarantine, type Lot } from '../db/lots'
import { peopleOf, type Project } from '../db/projects'
import { jointsStepping } from '../db/uses'
import { actingRole, appendAfter, appendEntries, type Actor, type NewEntry } from './record'
import { askRejudge } from './jobs'

export interface LotProjection {
  /** made, expires, opened as last entered; null when nobody has */
  dates: [string | null, string | null, string | null] | null
  quarantinedAt: string | null
  reason: string | null
}

/** How a lot stands by its entries. */
export function projectLot(entries: readonly StoredEntry[]): LotProjection {
  const out: LotProjection = { dates: null, quarantinedAt: null, reason: null }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'dates')
      out.dates = [e.payload.made, e.payload.expires, e.payload.opened].map((d) =>
        typeof d === 'string' ? d : null,
      ) as [string | null, string | null, string | null]
    if (e.kind === 'quarantine')
      Object.assign(
        out,
        e.payload.on === true
          ? { quarantinedAt: new Date(e.recordedAt).toISOString(), reason: String(e.payload.reason) }
          : { quarantinedAt: null, reason: null },
      )
  }
  return out
}

/** Joints that name the lot at a step are judged anew, as its register has changed. */
const rejudge = async (trx: Knex, project: Project, actor: Actor, lot: string) =>
  askRejudge(trx, project, actor, 'lot', { joints: await jointsStepping(trx, project.id, lot) })

const described = (lot: Lot, now: number, zone: string) => {
  const end = shelfEnd(lot, zone)
  return { ...lot, end, shelf: shelfState(end, now) }
}

export async function listLots(
  db: Knex,
  { id, zone }: Project,
  ask: { search: string; from: number; count: number },
) {
  const { total, lots } = await lotsPage(db, id, ask.search, ask.from, ask.count)
  const now = Date.now()
  return { total, lots: lots.map((l) => ({ ...described(l, now, zone), items: l.items })) }
}

async function lotOf(db: Knex, actor: Actor, id: string): Promise<Lot> {
  const lot = await findLot(db, actor.project, { id })
  if (!lot) throw new Problem('not-found', 'There is no such lot.', 'lot')
  return lot
}

export async function lotSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const lot = await lotOf(db, actor, id)
  const [items, entries, people] = await Promise.all([
    itemsWhere(db, { project: actor.project, lot: lot.lot }),
    entriesOf(db, id),
    peopleOf(db, actor.project),
  ])
  return {
    lot: described(lot, Date.now(), project.zone),
    counts: Object.fromEntries(
      [...new Set(items.map((i) => i.state))].map((s) => [s, items.filter((i) => i.state === s).length]),
    ),
    entries: entries.map(forCore),
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
  }
}

export interface LotTyped {
  lot: string
  item: string | null
  made: string | null
  expires: string | null
  opened: string | null
}

function checkDates(typed: Pick<LotTyped, 'made' | 'expires' | 'opened'>, zone: string) {
  for (const key of ['made', 'expires', 'opened'] as const)
    if (typed[key] && !isDay(typed[key]))
      throw new Problem('bad-date', `"${typed[key]}" is not a date such as 2026-03-09.`, key)
  const today = dayOf(Date.now(), zone)
  if (typed.made && typed.expires && typed.expires < typed.made)
    throw new Problem('contradiction', 'It expires before it was produced.', 'expires')
  if (typed.made && typed.made > today)
    throw new Problem('future', 'It was produced in the future: read the label again.', 'made')
  if (typed.opened && typed.opened > today)
    throw new Problem('future', 'It is opened on the day that it is opened.', 'opened')
  if (typed.made && typed.opened && typed.opened < typed.made)
    throw new Problem('contradiction', 'It was opened before it was produced.', 'opened')
}

/**
 * Enters a lot read from a label or typed. A known one keeps what it has, and gets the dates that were
 * missing.
 */
export async function registerLot(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: LotTyped,
): Promise<string> {
  const role = actingRole(actor, 'enter-lot')
  checkDates(typed, project.zone)
  return inTransaction(db, async (trx) => {
    await addLots(trx, project.id, [{ id: uuidv7(), ...typed }])
    const lot = (await findLot(trx, project.id, { lot: typed.lot }))!
    for (const key of ['made', 'expires'] as const)
      if (typed[key] && lot[key] !== typed[key])
        throw new Problem(
          'contradiction',
          `Lot ${typed.lot} is known with another ${key === 'made' ? 'production' : 'expiry'} date, ${lot[key]}.`,
          key,
        )
    await appendEntries(trx, actor, role, 'lot', lot.id, [
      {
        id: uuidv7(),
        kind: 'dates',
        payload: { made: lot.made, expires: lot.expires, opened: lot.opened },
        recordedAt: new Date(),
      },
    ])
    await rejudge(trx, project, actor, lot.lot)
    return lot.id
  })
}

/** Corrects the dates of a lot; joints that used it are judged anew. */
export async function dateLot(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  typed: Pick<LotTyped, 'made' | 'expires' | 'opened'>,
): Promise<{ job: string; total: number }> {
  const role = actingRole(actor, 'date-lot')
  checkDates(typed, project.zone)
  const lot = await lotOf(db, actor, id)
  return inTransaction(db, async (trx) => {
    await appendEntries(trx, actor, role, 'lot', id, [
      { id: uuidv7(), kind: 'dates', payload: { ...typed }, recordedAt: new Date() },
    ])
    await saveLotDates(trx, id, typed)
    return rejudge(trx, project, actor, lot.lot)
  })
}

/**
 * Puts a lot into quarantine from now on, or takes it out; both say why. What was made before is traced,
 * not judged anew.
 */
export async function quarantineLot(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  on: boolean,
  reason: string,
): Promise<{ job: string; total: number }> {
  const role = actingRole(actor, on ? 'quarantine' : 'end-quarantine')
  const lot = await lotOf(db, actor, id)
  const at = new Date()
  const entry: NewEntry = { id: uuidv7(), kind: 'quarantine', payload: { on, reason }, recordedAt: at }
  return inTransaction(db, async (trx) => {
    await appendAfter(trx, actor, role, 'lot', id, [entry], (before) => {
      if (on === (projectLot(before).quarantinedAt !== null))
        throw new Problem(
          'wrong-state',
          on ? `Lot ${lot.lot} is in quarantine already.` : `Lot ${lot.lot} is not in quarantine.`,
          'lot',
        )
    })
    await setLotQuarantine(trx, id, on ? at : null, on ? reason : null)
    return rejudge(trx, project, actor, lot.lot)
  })
}
