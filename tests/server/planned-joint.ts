import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { expect } from 'vitest'
import { base, type Client } from './client'

export interface Sheet {
  opening: { facts: { key: string; optional?: boolean; example?: string }[] } | null
  entries: { id: string; step: string; kind: string; person: string; payload: Record<string, unknown> }[]
}
export const sheetOf = async (client: Client, joint: string) =>
  (await client.get(`${base}/joints/${joint}`)).body as Sheet

/** The row of a joint at which nobody has done anything. */
export const untouched = {
  ...{ upstream: null, downstream: null, fitting: null, begun_at: null, occasions: '', passed: '[]' },
  ...{ state: 'not-started', until_at: null, then_state: null, testable_at: null, held_since: null },
  ...{ drafts: 0, done: 0, applicable: 0 },
}

let n = 0
/** A joint of a system that is planned for a crew and not open yet, on a line where it made no such joints. */
export async function plannedJoint(
  db: Knex,
  system: string,
  crewName: string,
  number?: string,
): Promise<string> {
  const crew = (await db('crews').where({ name: crewName }).first('id')).id
  const model = await db('joints').where({ system }).first()
  const line = await db('alignments')
    .where({ project: model.project })
    .whereNot({ id: model.alignment })
    .first('id')
  const id = uuidv7()
  n++
  await db('joints').insert({
    ...model,
    id,
    alignment: line.id,
    crew,
    number: number ?? `PJ-${id.slice(-8)}`,
    station: model.station + n / 10,
    ...untouched,
    ...{ procedure_id: null, opened_at: null, facts: '{}', summary: '{}' },
  })
  return id
}

/** Opens a joint with what its form shows for an example. @returns what its record has then */
export async function openAsShown(client: Client, joint: string) {
  const { opening } = await sheetOf(client, joint)
  const facts = Object.fromEntries(opening!.facts.filter((f) => !f.optional).map((f) => [f.key, f.example]))
  expect((await client.post(`${base}/joints/${joint}/open`, { facts })).problem).toBeNull()
  return (await sheetOf(client, joint)).entries
}
