import type { Knex } from 'knex'
import { projectSubject } from '#core/judgement/projection'
import type { SubjectType } from '#core/record/entry'
import { usesOf, type Use } from '#core/tracing/uses'
import { findDelivery } from '../db/deliveries'
import { forCore, type StoredEntry } from '../db/entries'
import { itemsByIds, type Item } from '../db/items'
import { jointsWhere, type Joint } from '../db/joints'
import { findLot } from '../db/lots'
import { findProcedure } from '../db/procedures'
import type { Project } from '../db/projects'
import { findReach, type Reach } from '../db/reaches'
import { findShift } from '../db/shifts'
import { findNcr } from '../db/ncrs'
import { findPack } from '../db/packs'
import { usesOfJoints } from '../db/uses'
import { findPlace } from '../db/yard'
import type { KnownOptions } from './judging'
import { projectLot } from './lots'
import { builtInto } from './makeup'
import { projectNcr } from './ncr-state'
import { projectPack } from './pack-sheet'
import { compiledProcedure, projectProcedure } from './procedures'
import { sha256 } from './record'
import { projectShift } from './shift-reports'
import { projectPlace } from './yard'

/** A field as it is stored beside the entries of its subject, and as those entries give it. */
export type Pair = [field: string, stored: unknown, rebuilt: unknown]

/** One subject, by its id, and its entries. */
export interface Recorded {
  subject: string
  entries: StoredEntry[]
}
/** Subjects of one kind that are looked at together. */
export interface Batch {
  db: Knex
  known: KnownOptions
  project: Project
  recorded: readonly Recorded[]
}
type Asked = Omit<Batch, 'recorded'> & Recorded
type Rebuild = (batch: Batch) => Promise<Map<string, Pair[]>>

/**
 * How one kind of subject is rebuilt.
 *
 * @param read what is stored of subjects, asked for once for all of them
 * @param compare the fields of one of them; null where nothing is stored of it
 */
const kind =
  <Row>(
    read: (db: Knex, project: string, ids: string[]) => Promise<ReadonlyMap<string, Row>>,
    compare: (asked: Asked, row: Row | null) => Pair[] | Promise<Pair[]>,
  ): Rebuild =>
  async ({ recorded, ...batch }) => {
    const ids = recorded.map((r) => r.subject)
    const rows = await read(batch.db, batch.project.id, ids)
    const out = new Map<string, Pair[]>()
    for (const one of recorded)
      out.set(one.subject, await compare({ ...batch, ...one }, rows.get(one.subject) ?? null))
    return out
  }

/** What is stored of kinds that a project has few of. */
const oneByOne =
  <Row>(find: (db: Knex, project: string, id: string) => Promise<Row | null>) =>
  async (db: Knex, project: string, ids: string[]): Promise<Map<string, Row>> => {
    const out = new Map<string, Row>()
    for (const id of ids) {
      const row = await find(db, project, id)
      if (row !== null) out.set(id, row)
    }
    return out
  }

const pairs = <K extends string>(
  stored: Partial<Record<K, unknown>> | null,
  rebuilt: Record<K, unknown>,
  fields: readonly K[],
): Pair[] => fields.map((field) => [field, stored?.[field], rebuilt[field]])

/** What stands of a joint or a reach. Clocks are judged as of when its last entry came in, as they were then. */
async function judged({ db, known, project, entries }: Asked, of: Joint | Reach): Promise<Pair[]> {
  const compiled = await compiledProcedure(db, project.id, of.procedure!)
  const at = Date.parse(entries.at(-1)?.receivedAt ?? of.openedAt!)
  const options = await known.of(compiled, of)
  const standing = projectSubject(compiled, of.facts, entries.map(forCore), at, options)
  const fields = ['state', 'until', 'then', 'testableAt', 'heldSince', 'done', 'drafts'] as const
  return pairs(of, standing, fields)
}
const spell = (uses: readonly Use[]) => uses.map((u) => `${u.kind} ${u.value}`).sort()

interface Made {
  joint: Joint
  uses: Use[]
  items: Item[]
}
/** Joints with what is stored of their making, and the items that were built in. */
async function madeJoints(db: Knex, project: string, ids: string[]): Promise<Map<string, Made>> {
  const joints = await jointsWhere(db, { project, ids })
  const [uses, items] = await Promise.all([
    usesOfJoints(db, ids),
    itemsByIds(db, project, joints.flatMap(builtInto)),
  ])
  const usesBy = new Map<string, Use[]>(joints.map((j) => [j.id, []]))
  for (const use of uses) usesBy.get(use.joint)?.push(use)
  const itemBy = new Map(items.map((i) => [i.id, i]))
  return new Map(
    joints.map((joint) => [
      joint.id,
      {
        joint,
        uses: usesBy.get(joint.id) ?? [],
        items: builtInto(joint).flatMap((id) => itemBy.get(id) ?? []),
      },
    ]),
  )
}

/** What is stored of each kind of subject and has to follow from its entries; the others store nothing so. */
export const rebuilt: Partial<Record<SubjectType, Rebuild>> = {
  joint: kind(madeJoints, async (asked, made) => {
    if (!made?.joint.procedure) return [['joint', null, asked.subject]]
    const { joint, uses, items } = made
    const { crew, procedure } = joint
    const makeup = usesOf({ crew, procedure, items }, asked.entries.map(forCore))
    return [...(await judged(asked, joint)), ['uses', spell(uses), spell(makeup)]]
  }),
  reach: kind(oneByOne(findReach), (asked, reach) =>
    reach?.procedure ? judged(asked, reach) : [['reach', null, asked.subject]],
  ),
  ncr: kind(oneByOne(findNcr), ({ entries }, ncr) =>
    pairs(ncr, projectNcr(entries), ['state', 'disposition', 'due', 'reworkedBy']),
  ),
  pack: kind(oneByOne(findPack), ({ entries }, pack) =>
    pairs(pack, projectPack(entries), ['state', 'verdict', 'logFile', 'signedBy']),
  ),
  procedure: kind(oneByOne(findProcedure), ({ entries }, row) => {
    // The digest of the document as it was last saved.
    const saved = entries.map(forCore).findLast((e) => e.kind === 'draft')?.payload.sha256
    return [
      ...pairs(row, projectProcedure(entries), ['state', 'reviewedBy', 'issuedBy']),
      ['sha256', row && sha256(row.source), saved],
    ]
  }),
  lot: kind(
    oneByOne((db, project, id) => findLot(db, project, { id })),
    ({ entries }, lot) => {
      const { dates, ...rest } = projectLot(entries)
      const stored = [lot?.made ?? null, lot?.expires ?? null, lot?.opened ?? null]
      return [['dates', stored, dates ?? stored], ...pairs(lot, rest, ['quarantinedAt', 'reason'])]
    },
  ),
  shift: kind(
    oneByOne((db, project, id) => findShift(db, project, { id })),
    ({ entries }, shift) => [['state', shift?.state, projectShift(entries)]],
  ),
  place: kind(oneByOne(findPlace), ({ entries }, place) =>
    place ? pairs(place, projectPlace(place, entries), ['lastRound', 'findings']) : [],
  ),
  delivery: kind(oneByOne(findDelivery), ({ entries }, delivery) => [
    ['signed', delivery?.state === 'signed', entries.some((e) => e.kind === 'signature')],
  ]),
  item: kind(
    async (db, project, ids) => new Map((await itemsByIds(db, project, ids)).map((i) => [i.id, i])),
    ({ entries }, item) => {
      const last = entries.map(forCore).findLast((e) => e.kind === 'inspection')
      return [['state', item?.state, last?.payload.outcome ?? 'received']]
    },
  ),
}
