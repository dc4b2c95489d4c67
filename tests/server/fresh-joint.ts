import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { emptySummary } from '../../core/judgement/projection'
import { entriesOf } from '../../server/db/entries'
import { findJoint } from '../../server/db/joints'
import { findProject } from '../../server/db/projects'
import { findSubject, refreshSubject } from '../../server/services/subjects'
import { saveMakeup } from '../../server/services/makeup'
import { untouched } from './planned-joint'

/** Judges joints again whose stored state a test had set by hand: the next test meets a true record. */
export async function judgeAgain(db: Knex, joints: readonly string[]): Promise<void> {
  const project = (await findProject(db, 'skerry-head'))!
  for (const id of joints) {
    const subject = (await findSubject(db, project.id, 'joint', id))!
    await refreshSubject(db, project, subject, await entriesOf(db, id))
  }
}

/**
 * A joint made to the same procedure and by the same crew as another, open and untouched, so that no
 * other test's record is changed.
 */
export async function freshJoint(db: Knex, like: string, openedAt = new Date()): Promise<string> {
  const model = await db('joints').where({ number: like }).first()
  const id = uuidv7()
  await db('joints').insert({
    ...model,
    id,
    number: `T-${id.slice(-8)}`,
    station: model.station + 0.5,
    ...untouched,
    opened_at: openedAt,
    summary: JSON.stringify(emptySummary),
  })
  // What opening a joint stores beside its row.
  const project = (await findProject(db, 'skerry-head'))!
  const made = (await findJoint(db, project.id, id))!
  await refreshSubject(db, project, { type: 'joint', title: made.number, ...made }, [])
  await saveMakeup(db, made, [])
  return id
}
