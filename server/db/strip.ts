import type { Knex } from 'knex'
import type { StripJoint } from '#core/line/strip-rows'
import type { SubjectState } from '#core/judgement/types'
import { changesOf } from './projection'

interface Row {
  id: string
  number: string
  station: number
  crew: string
  state: SubjectState
  until_at: Date | null
  then_state: SubjectState | null
  changes: string | null
  next: string | null
  opened: number
  delivered: number
  ncr: number
  done: number
  applicable: number
}

/**
 * Joints of a line in its direction, with no more of each than its strip draws.
 *
 * @param ids only these; all of the line without
 */
export async function stripJoints(
  db: Knex,
  where: { project: string; alignment: string; crew: string | null; ids?: readonly string[] },
): Promise<StripJoint[]> {
  const query = db('joints as j')
    .select(
      'j.id',
      'j.number',
      'j.station',
      'j.crew',
      'j.state',
      'j.until_at',
      'j.then_state',
      'j.done',
      'j.applicable',
    )
    .select({
      changes: db.raw("JSON_EXTRACT(j.summary, '$.changes')"),
      next: db.raw("JSON_VALUE(j.summary, '$.nextTitle')"),
      opened: db.raw('j.procedure_id IS NOT NULL'),
      delivered: db.raw('j.upstream IS NOT NULL'),
      ncr: db.raw("EXISTS (SELECT 1 FROM ncrs n WHERE n.subject = j.id AND n.state <> 'closed')"),
    })
    .where({ 'j.project': where.project, 'j.alignment': where.alignment })
    .orderBy('j.station')
  if (where.crew) void query.where({ 'j.crew': where.crew })
  if (where.ids) void query.whereIn('j.id', [...where.ids])
  return ((await query) as Row[]).map(
    ({ until_at, then_state, changes, opened, delivered, ncr, ...row }) => ({
      ...row,
      changes: changesOf({ until_at, then_state, summary: `{"changes":${changes ?? 'null'}}` }),
      opened: opened === 1,
      delivered: delivered === 1,
      ncr: ncr === 1,
    }),
  )
}
