import type { Knex } from 'knex'
import type { FactValue } from '#core/formula/formula'
import { readFact } from '#core/procedure/facts'
import {
  factsAsked,
  factsAtOpening,
  factsOfPieces,
  itemPlaces,
  sourceOf,
  type ItemPlace,
} from '#core/procedure/opening'
import type { Procedure, ProcedureFact } from '#core/procedure/types'
import { Problem } from '#core/problem'
import { inTransaction } from '../db/connection'
import { catalogueOf } from '../db/deliveries'
import { holdDevice } from '../db/devices'
import { findItem, freeItems, holdItems, isBuiltIn, itemsByIds, type Item } from '../db/items'
import { findLot } from '../db/lots'
import { jointsOpened, openJoint, type Joint } from '../db/joints'
import { findProcedure, issuedProcedure, type ProcedureRow } from '../db/procedures'
import { alignmentsOf, type Project } from '../db/projects'
import { openedWhen } from '#core/record/late'
import { gatheredAnswers } from './gathering'
import { saveMakeup } from './makeup'
import { raiseNcr } from './ncrs'
import { compiledProcedure } from './procedures'
import { actingRole, chainEntries, keepEntries, type Actor } from './record'
import { onceAnswered } from './shift'
import { refreshSubject, visibleSubject } from './subjects'

type Catalogue = Awaited<ReturnType<typeof catalogueOf>>

/** Catalogue entries that give every fact the procedure takes from this place: only those fit. */
function fitting(procedure: Procedure, catalogue: Catalogue, place: ItemPlace): string[] {
  const wanted = procedure.facts.filter((f) => f.from === sourceOf(place) && !f.optional)
  if (wanted.length === 0) return []
  return [...catalogue]
    .filter(([, c]) => c.kind === sourceOf(place) && wanted.every((f) => c.facts[f.key] !== undefined))
    .map(([item]) => item)
}

/** What must be chosen and typed before a joint is opened. */
export interface Opening {
  procedure: { id: string; key: string; title: string; revision: string }
  places: ItemPlace[]
  /** facts that neither items nor the line give, with what the form starts with */
  facts: ProcedureFact[]
  /** the joint before of the same crew and line, with its facts (SI): offered, never filled in */
  before: { number: string; facts: Record<string, FactValue> } | null
}

export interface OpeningPlan {
  row: ProcedureRow
  procedure: Procedure
  places: { place: ItemPlace; items: string[] }[]
  line: Record<string, FactValue>
}

/** The revision that a joint is opened with: the issued one, or the one that was when its device last heard. */
async function revisionFor(db: Knex, project: Project, system: string, away?: Away): Promise<ProcedureRow> {
  const issued = await issuedProcedure(db, project.id, system)
  if (!issued)
    throw new Problem(
      'no-procedure',
      `No procedure "${system}" is issued yet: ask the engineer.`,
      'procedure',
    )
  if (!away || away.procedure === issued.id) return issued
  const pinned = await findProcedure(db, project.id, away.procedure)
  if (pinned?.key !== system || pinned.state !== 'superseded')
    throw new Problem('not-found', 'There is no such revision.', 'procedure')
  if (away.stampAt === null || Date.parse(issued.issuedAt!) <= away.stampAt)
    throw new Problem(
      'changed',
      `Revision ${pinned.revision} had given way to ${issued.revision} before this device was last in contact.`,
      'procedure',
    )
  return pinned
}

export async function openingPlan(
  db: Knex,
  project: Project,
  joint: Pick<Joint, 'system' | 'alignment'>,
  away?: Away,
): Promise<OpeningPlan> {
  const row = await revisionFor(db, project, joint.system, away)
  const { procedure } = await compiledProcedure(db, project.id, row.id)
  const [catalogue, lines] = await Promise.all([catalogueOf(db, project.id), alignmentsOf(db, project.id)])
  // A place is chosen from deliveries where the catalogue knows what fits there; else its facts are read
  // from the label.
  const places = itemPlaces
    .map((place) => ({ place, items: fitting(procedure, catalogue, place) }))
    .filter((p) => p.items.length > 0)
  return { row, procedure, places, line: lines.find((l) => l.id === joint.alignment)!.facts }
}

const typed = ({ procedure, places, line }: OpeningPlan): ProcedureFact[] =>
  factsAsked(
    procedure,
    places.map((p) => p.place),
    line,
  )

/** A joint before is like this one for so long. */
const LIKE_DAYS = 14

async function typedBefore(
  db: Knex,
  project: Project,
  joint: Joint,
  asked: readonly ProcedureFact[],
): Promise<Opening['before']> {
  const [last] = await jointsOpened(
    db,
    {
      project: project.id,
      since: new Date(Date.now() - LIKE_DAYS * 86_400_000),
      crew: joint.crew,
      alignment: joint.alignment,
      system: joint.system,
    },
    1,
  )
  if (!last) return null
  const known = asked.filter((f) => last.facts[f.key] !== undefined)
  return {
    number: last.number,
    facts: Object.fromEntries(known.map((f) => [f.key, last.facts[f.key]!])),
  }
}

/** What the opening form asks; null where no procedure is issued. */
export async function openingOf(db: Knex, project: Project, joint: Joint): Promise<Opening | null> {
  try {
    const plan = await openingPlan(db, project, joint)
    const facts = typed(plan)
    return {
      procedure: { id: plan.row.id, key: plan.row.key, title: plan.row.title, revision: plan.row.revision },
      places: plan.places.map((p) => p.place),
      facts,
      before: await typedBefore(db, project, joint, facts),
    }
  } catch (error) {
    if (error instanceof Problem && error.code === 'no-procedure') return null
    throw error
  }
}

/** Accepted, unused items that fit a joint at a place. */
export async function offeredItems(
  db: Knex,
  project: Project,
  actor: Actor,
  jointId: string,
  place: ItemPlace,
  search: string,
): Promise<Item[]> {
  const plan = await openingPlan(db, project, await visibleSubject(db, actor, 'joint', jointId))
  return freeItems(db, project.id, place, plan.places.find((p) => p.place === place)?.items ?? [], search)
}

async function chooseItem(
  db: Knex,
  project: string,
  id: string | undefined,
  { place, items }: OpeningPlan['places'][number],
  away?: Away,
): Promise<Item> {
  if (!id)
    throw new Problem('missing', `Choose the ${place === 'fitting' ? 'fitting' : `${place} pipe`}.`, place)
  const item = await findItem(db, project, id)
  if (!item || sourceOf(place) !== item.kind) throw new Problem('not-found', 'There is no such item.', place)
  if (!items.includes(item.item))
    throw new Problem('mismatch', `${item.serial} is not for this kind of joint.`, place)
  const lot = await findLot(db, project, { lot: item.lot })
  // Built in before the quarantine, where nobody could know: it stands, and a report says so.
  if (away && lot?.quarantinedAt && Date.parse(lot.quarantinedAt) > away.at) return item
  if (item.state === 'quarantined' || item.state === 'returned')
    throw new Problem('quarantined', `${item.serial} is ${item.state}: it may not be built in.`, place)
  if (lot?.quarantinedAt)
    throw new Problem(
      'quarantined',
      `Lot ${item.lot} is in quarantine (${lot.reason}): ${item.serial} may not be built in.`,
      place,
    )
  if (item.state === 'received')
    throw new Problem('not-accepted', `${item.serial} has not been inspected on arrival.`, place)
  if (await isBuiltIn(db, place, id))
    throw new Problem('in-use', `${item.serial} is already built in at this end.`, place)
  return item
}

export interface OpenJoint extends Partial<Record<ItemPlace, string | null>> {
  facts?: Record<string, unknown>
  away?: Away
}

/** Of a joint that was opened where there was no signal. */
export interface Away {
  /** of a report that this may ask for: the same opening twice makes one */
  id: string
  /** ms since 1970 by the device */
  at: number
  /** the server's time that the device last had, ms; null without a valid stamp */
  stampAt: number | null
  device: string | null
  /** the revision that the device had */
  procedure: string
}

/**
 * Opens a joint: pins the issued revision and works out its facts from pipe, fitting, line and what was
 * typed.
 */
export async function openJointWith(
  db: Knex,
  project: Project,
  actor: Actor,
  jointId: string,
  choice: OpenJoint,
): Promise<void> {
  actingRole(actor, 'open-work')
  const joint = await visibleSubject(db, actor, 'joint', jointId)
  const { away } = choice
  if (away && joint.procedure && (await isThis(db, project, joint, choice, away)))
    return reportQuarantined(db, project, actor, joint, away)
  if (joint.procedure) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
  if (choice.upstream && choice.upstream === choice.downstream)
    throw new Problem('same-pipe', 'A pipe is not joined to itself.', 'downstream')
  const plan = await openingPlan(db, project, joint, away)
  await inTransaction(db, async (trx) => {
    // One pipe is not built in twice, nor while somebody quarantines it: its row is held until this is
    // written.
    await holdItems(
      trx,
      plan.places.map((p) => choice[p.place]).filter((id): id is string => typeof id === 'string'),
    )
    const chosen = new Map<ItemPlace, Item>()
    for (const place of plan.places)
      chosen.set(
        place.place,
        await chooseItem(trx, project.id, choice[place.place] ?? undefined, place, away),
      )
    await writeOpening(trx, project, actor, joint, plan, chosen, choice)
  })
  if (away) await reportQuarantined(db, project, actor, { ...joint, ...piecesOf(choice) }, away)
}

const piecesOf = (choice: OpenJoint) =>
  Object.fromEntries(itemPlaces.map((p) => [p, choice[p] ?? null])) as Record<ItemPlace, string | null>

/** Whether a joint was opened just like this: as by this very word, whose reply was lost on its way. */
async function isThis(db: Knex, project: Project, joint: Joint, choice: OpenJoint, away: Away) {
  if (joint.procedure !== away.procedure) return false
  if (itemPlaces.some((p) => joint[p] !== piecesOf(choice)[p])) return false
  const given = choice.facts ?? {}
  return typed(await openingPlan(db, project, joint, away)).every((f) =>
    given[f.key] === undefined || given[f.key] === ''
      ? joint.facts[f.key] === undefined
      : readFact(f, given[f.key]) === joint.facts[f.key],
  )
}

/** What came into quarantine while nobody there could hear of it asks for a report. */
async function reportQuarantined(
  db: Knex,
  project: Project,
  actor: Actor,
  joint: Pick<Joint, 'id' | ItemPlace>,
  away: Away,
): Promise<void> {
  const pieces = itemPlaces.map((p) => joint[p]).filter((id): id is string => id !== null)
  for (const { lot: name, serial } of await itemsByIds(db, project.id, pieces)) {
    const lot = await findLot(db, project.id, { lot: name })
    if (!lot?.quarantinedAt || Date.parse(lot.quarantinedAt) <= away.at) continue
    const said = {
      criterion: 'Made with nothing that is in question.',
      reading: `Opened without a signal with ${serial} of lot ${name}, in quarantine since: ${lot.reason}`,
    }
    const raise = { id: away.id, subjectType: 'joint' as const, subject: joint.id, step: null, photo: null }
    await raiseNcr(db, project, actor, raise, said)
  }
}

async function writeOpening(
  trx: Knex,
  project: Project,
  actor: Actor,
  joint: Joint,
  plan: OpeningPlan,
  chosen: Map<ItemPlace, Item>,
  { facts: given = {}, away }: OpenJoint,
): Promise<void> {
  const catalogue = await catalogueOf(trx, project.id)
  const pieces = [...chosen].map(([place, { item }]) => [place, catalogue.get(item)!.facts])
  const facts = factsAtOpening(
    plan.procedure,
    typed(plan),
    { ...factsOfPieces(plan.procedure, Object.fromEntries(pieces)), ...plan.line },
    given,
  )
  const compiled = await compiledProcedure(trx, project.id, plan.row.id)
  const run = away?.device ? await holdDevice(trx, away.device, actor.person) : null
  const openedAt = new Date(away ? openedWhen(away.at, away.stampAt, Date.now(), run) : Date.now())
  const idAt = (place: ItemPlace) => chosen.get(place)?.id ?? null
  const items = { upstream: idAt('upstream'), downstream: idAt('downstream'), fitting: idAt('fitting') }
  const free = await openJoint(trx, joint.id, {
    procedure: plan.row.id,
    ...items,
    facts,
    openedAt,
  })
  if (!free) throw new Problem('already-open', `Joint ${joint.number} is open already.`, 'joint')
  const opening = { procedure: plan.row.id, compiled, facts, at: openedAt }
  // Without a signal the crew answers here what a register knows or was asked once today: nothing is
  // answered for them twice.
  const known = away ? [] : await gatheredAnswers(trx, project, actor, joint, opening)
  const once = away ? [] : await onceAnswered(trx, project, actor, joint, opening)
  const answered = [...known, ...once.filter((o) => !known.some((k) => k.step === o.step))]
  const { entries, rows } = chainEntries(actor, actingRole(actor, 'record'), 'joint', joint.id, answered, [])
  const opened = { ...joint, procedure: plan.row.id, facts, ...items }
  await refreshSubject(trx, project, { type: 'joint', title: joint.number, ...opened }, entries)
  await saveMakeup(trx, opened, entries)
  await keepEntries(trx, joint.id, rows)
}
