import type { Knex } from 'knex'
import type { UseKind } from '#core/tracing/uses'
import { Problem } from '#core/problem'
import { findDelivery } from '../db/deliveries'
import { findInstrument } from '../db/instruments'
import { cameWith, findItem, looseItems, type Item } from '../db/items'
import { findJoint, jointsWhere } from '../db/joints'
import { findLot } from '../db/lots'
import { findProcedure } from '../db/procedures'
import { alignmentsOf, crewsOf, peopleOf } from '../db/projects'
import { ncrsOf } from '../db/ncrs'
import { findPack, packsOf } from '../db/packs'
import { findReach, reachesOf } from '../db/reaches'
import { jointsReadSince, jointsUsing, type TouchedJoint, usesOfJoints } from '../db/uses'
import type { Actor } from './record'

/** From where a trace starts: something that was used, or something that was made. */
export type OriginKind = UseKind | 'joint' | 'reach' | 'pack'
export const originKinds: readonly OriginKind[] = [
  'item',
  'lot',
  'delivery',
  'instrument',
  'person',
  'crew',
  'procedure',
  'joint',
  'reach',
  'pack',
]

export interface Origin {
  kind: OriginKind
  value: string
  /** ms; only readings since then, for an instrument */
  since: number | null
}

const missing = (what: string): never => {
  throw new Problem('not-found', `There is no such ${what}.`, 'value')
}

/** What the origin is called, and what stands in the yard because of it. */
export async function nameOf(db: Knex, actor: Actor, { kind, value }: Origin): Promise<string> {
  const project = actor.project
  switch (kind) {
    case 'lot':
      return value
    case 'item':
      return (await findItem(db, project, value))?.serial ?? missing('item')
    case 'delivery':
      return (await findDelivery(db, project, value))?.number ?? missing('delivery')
    case 'instrument':
      return (await findInstrument(db, project, value))?.name ?? missing('instrument')
    case 'person':
      return (await peopleOf(db, project)).find((p) => p.id === value)?.name ?? missing('person')
    case 'crew':
      return (await crewsOf(db, project)).find((c) => c.id === value)?.name ?? missing('crew')
    case 'procedure':
      return ((p) => (p ? `${p.key}, revision ${p.revision}` : missing('procedure')))(
        await findProcedure(db, project, value),
      )
    case 'joint':
      return (await findJoint(db, project, value))?.number ?? missing('joint')
    case 'reach':
      return (await findReach(db, project, value))?.name ?? missing('reach')
    case 'pack':
      return (await findPack(db, project, value))?.number ?? missing('test pack')
  }
}

/** Every joint that the origin touches. */
export async function jointsTouched(db: Knex, project: string, origin: Origin): Promise<TouchedJoint[]> {
  const { kind, value, since } = origin
  if (kind === 'instrument' && since !== null) return jointsReadSince(db, project, value, new Date(since))
  if (kind === 'joint') {
    const joint = await findJoint(db, project, value)
    return joint ? [joint] : []
  }
  if (kind === 'reach' || kind === 'pack') {
    const part = kind === 'reach' ? await findReach(db, project, value) : await findPack(db, project, value)
    return part ? jointsWhere(db, { project, alignment: part.alignment, from: part.from, to: part.to }) : []
  }
  return jointsUsing(db, project, kind, value)
}

/** Stations of the touched joints by line, ascending. */
function byLine(joints: readonly TouchedJoint[]): Map<string, number[]> {
  const lines = new Map<string, number[]>()
  for (const j of joints) {
    const list = lines.get(j.alignment)
    if (list) list.push(j.station)
    else lines.set(j.alignment, [j.station])
  }
  return lines
}

/** Whether a sorted list has a station within a part of the line. */
function touches(stations: readonly number[] | undefined, from: number, to: number): boolean {
  if (!stations) return false
  let [low, high] = [0, stations.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (stations[middle]! < from) low = middle + 1
    else high = middle
  }
  return low < stations.length && stations[low]! <= to
}

/** Items of the origin that no joint holds: what can still be kept out of the trench. */
export async function looseOf(db: Knex, project: string, { kind, value }: Origin): Promise<Item[]> {
  if (kind === 'lot') return looseItems(db, project, { lot: value })
  if (kind === 'delivery') return looseItems(db, project, { delivery: value })
  return kind === 'item' ? looseItems(db, project, { id: value }) : []
}

/** Nobody has set it aside: it could still be built in. */
export const isFree = ({ state }: Item) => ['received', 'accepted', 'remark'].includes(state)

/** What a trace found, before it is drawn. */
export interface Touched {
  joints: TouchedJoint[]
  lines: Map<string, number[]>
  reaches: { id: string; name: string; state: string; alignment: string; from: number; to: number }[]
  packs: { id: string; number: string; state: string; alignment: string; from: number; to: number }[]
}

/** Joints by one query; the reaches and test packs that they lie in. */
export async function touched(db: Knex, project: string, origin: Origin): Promise<Touched> {
  const [joints, reaches, packs] = await Promise.all([
    jointsTouched(db, project, origin),
    reachesOf(db, project),
    packsOf(db, project),
  ])
  const lines = byLine(joints)
  return {
    joints,
    lines,
    reaches: reaches.filter((r) =>
      origin.kind === 'reach' ? r.id === origin.value : touches(lines.get(r.alignment), r.from, r.to),
    ),
    packs: packs.filter((p) =>
      origin.kind === 'pack' ? p.id === origin.value : touches(lines.get(p.alignment), p.from, p.to),
    ),
  }
}

/** Deliveries and lots that the origin itself came with. */
async function sourcesOf(
  db: Knex,
  project: string,
  { kind, value }: Origin,
): Promise<{ deliveries: { id: string; number: string }[]; lots: string[] }> {
  if (kind !== 'lot' && kind !== 'delivery' && kind !== 'item') return { deliveries: [], lots: [] }
  const came = await cameWith(db, project, kind === 'item' ? { id: value } : { [kind]: value })
  const deliveries = await Promise.all(
    [...new Set(came.map((c) => c.delivery))].map((id) => findDelivery(db, project, id)),
  )
  return {
    deliveries: deliveries.flatMap((d) => (d ? [{ id: d.id, number: d.number }] : [])),
    lots: [...new Set(came.map((c) => c.lot))],
  }
}

const LISTED = 200

/** The whole trace, forward to what was made and back to what it was made with. */
export async function trace(db: Knex, actor: Actor, origin: Origin) {
  const project = actor.project
  const label = await nameOf(db, actor, origin)
  const found = await touched(db, project, origin)
  const [alignments, crews, people, ncrs, loose, lot] = await Promise.all([
    alignmentsOf(db, project),
    crewsOf(db, project),
    peopleOf(db, project),
    ncrsOf(db, project, {}),
    looseOf(db, project, origin),
    origin.kind === 'lot' ? findLot(db, project, { lot: origin.value }) : null,
  ])
  if (origin.kind === 'lot' && !lot && found.joints.length === 0) missing('lot')
  const ids = new Set(found.joints.map((j) => j.id))
  const listed = found.joints.slice(0, LISTED)
  const open = ncrs.filter((n) => n.state !== 'closed' && ids.has(n.subject))
  return {
    origin: { ...origin, label },
    lot,
    sources: await sourcesOf(db, project, origin),
    total: found.joints.length,
    joints: listed.map((j) => ({ ...j, ncr: open.find((n) => n.subject === j.id)?.number ?? null })),
    lines: [...found.lines].map(([id, stations]) => {
      const line = alignments.find((a) => a.id === id)!
      return { id, name: line.name, from: line.from, to: line.to, stations }
    }),
    reaches: found.reaches.map(({ id, name, state, alignment, from, to }) => ({
      id,
      name,
      state,
      alignment,
      from,
      to,
    })),
    packs: found.packs.map(({ id, number, state, alignment, from, to }) => ({
      id,
      number,
      state,
      alignment,
      from,
      to,
    })),
    loose: {
      count: loose.length,
      free: loose.filter(isFree).length,
      first: loose.slice(0, 20).map(({ id, serial, state, delivery }) => ({ id, serial, state, delivery })),
    },
    ncrs: open.map(({ id, number, subject, state }) => ({ id, number, subject, state })),
    made: await madeWith(db, actor, listed, crews, people),
    crews: Object.fromEntries(crews.map((c) => [c.id, c.name])),
  }
}

/** What the listed joints were made with, by name, and in how many of them. */
async function madeWith(
  db: Knex,
  actor: Actor,
  joints: readonly TouchedJoint[],
  crews: { id: string; name: string }[],
  people: { id: string; name: string }[],
) {
  const counts = new Map<string, { kind: UseKind; value: string; joints: number }>()
  for (const u of await usesOfJoints(
    db,
    joints.map((j) => j.id),
  )) {
    const key = `${u.kind} ${u.value}`
    const known = counts.get(key)
    if (known) known.joints++
    else counts.set(key, { kind: u.kind, value: u.value, joints: 1 })
  }
  const named: Record<string, Map<string, string>> = {
    crew: new Map(crews.map((c) => [c.id, c.name])),
    person: new Map(people.map((p) => [p.id, p.name])),
  }
  const out = []
  for (const use of [...counts.values()].filter((u) => u.kind !== 'item' || joints.length === 1)) {
    const label =
      named[use.kind]?.get(use.value) ??
      (await nameOf(db, actor, { ...use, since: null }).catch(() => use.value))
    out.push({ ...use, label })
  }
  return out.sort((a, b) => b.joints - a.joints)
}
