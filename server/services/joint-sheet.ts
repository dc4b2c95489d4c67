import type { Knex } from 'knex'
import { stateAt } from '#core/judgement/ahead'
import { itemsByIds } from '../db/items'
import { entriesOf, forCore } from '../db/entries'
import { peopleOf, type Project } from '../db/projects'
import { instrumentsOf } from '../db/instruments'
import { limitedLots } from '../db/lots'
import { visibleJoint } from './joints'
import { lotFacts } from './judging'
import { openingOf } from './opening'
import { compiledProcedure } from './procedures'
import type { Actor } from './record'

/** Everything the joint sheet needs, so that the device can judge by itself. */
export async function jointSheet(db: Knex, project: Project, actor: Actor, id: string) {
  const joint = await visibleJoint(db, actor, id)
  const [entries, lots, people, instruments, items] = await Promise.all([
    entriesOf(db, id),
    limitedLots(db, project.id),
    peopleOf(db, project.id),
    instrumentsOf(db, project.id),
    itemsByIds(
      db,
      project.id,
      [joint.upstream, joint.downstream, joint.fitting].filter((x): x is string => x !== null),
    ),
  ])
  const procedure = joint.procedure ? await compiledProcedure(db, project.id, joint.procedure) : null
  const key = procedure?.procedure.key ?? ''
  return {
    joint: { ...joint, state: stateAt(joint, Date.now()) },
    procedure: procedure?.procedure ?? null,
    opening: procedure ? null : await openingOf(db, project, joint),
    schools: project.settings.schools[key] ?? {},
    plan: project.settings.plan[key] ?? {},
    rule: project.settings.rule,
    instruments,
    lots: lotFacts(lots),
    items,
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq, hash: e.hash, lateReason: e.late })),
  }
}
