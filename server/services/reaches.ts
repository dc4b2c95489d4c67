import type { Knex } from 'knex'
import * as yup from 'yup'
import { judgeReach, materials } from '#core/embedment/reach'
import { Problem } from '#core/problem'
import { uuid } from '#core/record/uuid'
import { inTransaction } from '../db/connection'
import { entriesOf, forCore } from '../db/entries'
import { peopleOf } from '../db/projects'
import { findReach, saveReach, type Reach } from '../db/site'
import { actingRole, appendEntries, type Actor, type NewEntry } from './record'
import { checkStrikes, notInFuture } from './sent-entries'
import { markLate } from './timing'

const side = yup.string().oneOf(['left', 'right', 'both']).required()
const positive = yup.number().strict().moreThan(0).required()
const payloads = {
  lift: yup
    .object({
      side,
      thickness: positive.max(2),
      passes: yup.number().strict().integer().min(0).max(50).required(),
      material: yup
        .string()
        .oneOf(materials.map((m) => m.key))
        .required(),
      haunched: yup.boolean().required(),
      replaces: uuid(),
    })
    .noUnknown(true)
    .strict(true),
  density: yup
    .object({
      side,
      wetDensity: positive.min(500).max(4000),
      moisture: yup.number().strict().min(0).max(1).required(),
      maximum: positive.min(500).max(4000),
      station: yup.number().strict(),
    })
    .noUnknown(true)
    .strict(true),
  correction: yup
    .object({ strikes: uuid().required(), reason: yup.string().trim().min(1).max(2000).required() })
    .noUnknown(true)
    .strict(true),
  remark: yup
    .object({ text: yup.string().trim().min(1).max(2000).required() })
    .noUnknown(true)
    .strict(true),
}

export async function visibleReach(db: Knex, actor: Actor, id: string): Promise<Reach> {
  const reach = await findReach(db, actor.project, id)
  if (!reach || (actor.crew && reach.crew !== actor.crew))
    throw new Problem('not-found', 'There is no such reach.', 'reach')
  return reach
}

/** Records lifts, density tests and corrections of a reach, all or none. */
export async function recordAtReach(db: Knex, actor: Actor, id: string, news: NewEntry[]): Promise<void> {
  const role = actingRole(actor, ['inspector', 'crew-lead'])
  const reach = await visibleReach(db, actor, id)
  for (const entry of news) {
    const schema = (payloads as Record<string, yup.AnyObjectSchema>)[entry.kind]
    if (!schema) throw new Problem('bad-kind', `A ${entry.kind} is not recorded at a reach.`, 'kind')
    try {
      schema.validateSync(entry.payload)
    } catch (error) {
      throw new Problem(
        'bad-payload',
        (error as yup.ValidationError).message,
        (error as yup.ValidationError).path || 'payload',
      )
    }
  }
  notInFuture(news)
  await inTransaction(db, async (trx) => {
    const before = await entriesOf(trx, id)
    checkStrikes(before, news, actor)
    for (const { kind, payload } of news) {
      if (
        kind === 'lift' &&
        payload.replaces !== undefined &&
        !before.some((e) => e.id === payload.replaces && e.kind === 'lift')
      )
        throw new Problem('not-found', 'The lift to take out is not in this record.', 'replaces')
    }
    await markLate(trx, actor.person, news, before, null)
    const { entries } = await appendEntries(trx, actor, role, 'reach', id, news, before)
    const judged = judgeReach(entries.map(forCore), reach.od, reach.criteria)
    await saveReach(trx, id, { state: judged.state, left: judged.left, right: judged.right })
  })
}

export async function reachSheet(db: Knex, actor: Actor, id: string) {
  const reach = await visibleReach(db, actor, id)
  const [entries, people] = await Promise.all([entriesOf(db, id), peopleOf(db, actor.project)])
  return {
    reach,
    people: Object.fromEntries(people.map((p) => [p.id, p.name])),
    entries: entries.map((e) => ({ ...forCore(e), seq: e.seq })),
  }
}
