import type { Knex } from 'knex'
import type { StoredEntry } from '../server/db/entries'
import type { Project } from '../server/db/projects'
import { saveProjection } from '../server/db/projection'
import { appendEntries, type Actor, type NewEntry } from '../server/services/record'
import { findSubject, projectionOf, settleBegun, type WorkedSubject } from '../server/services/subjects'
import type { Random } from './random'

export const MINUTE = 60_000
export const HOUR = 60 * MINUTE
export const DAY = 24 * HOUR

/** What the scenario stands on: people, lines, instruments and procedures already laid. */
export interface Ground {
  db: Knex
  random: Random
  now: number
  project: Project
  crews: string[]
  people: Record<string, Actor>
  lines: { main: string; branch: string }
  instruments: Record<string, string>
  /** procedure ids by key */
  procedures: Record<string, string>
}

export type Brief = Pick<NewEntry, 'kind' | 'payload' | 'step' | 'instrument'> & { at: number }

/** Writes entries of a subject as a person of the scenario, at their times. */
export async function write(
  g: Ground,
  type: Parameters<typeof appendEntries>[3],
  subject: string,
  who: string,
  briefs: Brief[],
  known?: StoredEntry[],
): Promise<StoredEntry[]> {
  const actor = g.people[who]!
  const { entries } = await appendEntries(
    g.db,
    actor,
    actor.roles[0]!,
    type,
    subject,
    briefs.map((b) => ({
      id: g.random.id(b.at),
      kind: b.kind,
      step: b.step ?? null,
      payload: b.payload,
      instrument: b.instrument ?? null,
      recordedAt: new Date(b.at),
      receivedAt: new Date(b.at + 4000),
    })),
    known,
  )
  return entries
}

/** A joint was opened just before its first entry. */
export async function openedBefore(db: Knex, id: string, entries: readonly StoredEntry[]): Promise<void> {
  const [first] = entries
  if (first)
    await db('joints')
      .where({ id })
      .update({ opened_at: new Date(Date.parse(first.recordedAt) - 60_000) })
}

/** Keeps what a record comes to, as the server does after each entry. */
export async function keepJudged(
  { db, project: of }: Ground,
  type: WorkedSubject,
  id: string,
  entries: readonly StoredEntry[],
  at: number,
): Promise<void> {
  const subject = await settleBegun(db, of, (await findSubject(db, of.id, type, id))!, entries)
  const projection = await projectionOf(db, of, { ...subject, procedure: subject.procedure! }, entries, at)
  await saveProjection(db, type === 'joint' ? 'joints' : 'reaches', id, projection)
}
