import type { Knex } from 'knex'
import { walkOf, type Walk } from '#core/crew/pace'
import { judge } from '#core/judgement/judge'
import { standing } from '#core/judgement/standing'
import type { Judgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'
import { entriesOfMany, forCore } from '../db/entries'
import type { Joint } from '../db/joints'
import type { Reach } from '../db/reaches'
import type { Project } from '../db/projects'
import { KnownOptions } from './judging'
import { compiledProcedure } from './procedures'

/** One joint of a crew, with what its record says. */
export interface Made {
  joint: Joint
  compiled: CompiledProcedure
  entries: readonly Entry[]
  judgement: Judgement
  walk: Walk
  /** the last answer, ms */
  last: { key: string; at: number } | null
}

const lastOf = (walk: Walk): Made['last'] =>
  [...walk].reduce<Made['last']>(
    (last, [key, at]) => (last === null || at >= last.at ? { key, at } : last),
    null,
  )

/**
 * Joints with their records judged, in the order given.
 *
 * @param upTo whether the records are read as they stood then, and not as they stand
 */
export async function madeOf(
  db: Knex,
  project: Project,
  joints: readonly Joint[],
  now: number,
  upTo = false,
): Promise<Made[]> {
  const records = await entriesOfMany(
    db,
    joints.map((j) => j.id),
  )
  const known = new KnownOptions(db, project)
  const out: Made[] = []
  for (const joint of joints) {
    const compiled = await compiledProcedure(db, project.id, joint.procedure!)
    const whole = (records.get(joint.id) ?? []).map(forCore)
    const all = upTo ? whole.filter((e) => e.recordedAt < now) : whole
    const entries = standing(all)
    const walk = walkOf(entries)
    const options = await known.of(compiled, joint)
    const judgement = judge(compiled, joint.facts, all, now, { ...options, brief: true })
    out.push({ joint, compiled, entries, judgement, walk, last: lastOf(walk) })
  }
  return out
}

/** One reach of a crew, with what its record says. */
export interface Filled {
  reach: Reach
  compiled: CompiledProcedure
  entries: readonly Entry[]
  judgement: Judgement
}

/** Reaches with their records judged, in the order given; one without a procedure is passed over. */
export async function filledOf(
  db: Knex,
  project: Project,
  reaches: readonly Reach[],
  now: number,
  upTo = false,
): Promise<Filled[]> {
  const records = await entriesOfMany(
    db,
    reaches.map((r) => r.id),
  )
  const known = new KnownOptions(db, project)
  const out: Filled[] = []
  for (const reach of reaches) {
    if (!reach.procedure) continue
    const compiled = await compiledProcedure(db, project.id, reach.procedure)
    const options = await known.of(compiled, reach)
    const whole = (records.get(reach.id) ?? []).map(forCore)
    const all = upTo ? whole.filter((e) => e.recordedAt < now) : whole
    const judgement = judge(compiled, reach.facts, all, now, options)
    out.push({ reach, compiled, entries: standing(all), judgement })
  }
  return out
}

export const finished = (m: Made) => m.judgement.state === 'accepted' || m.judgement.state === 'waiting'
