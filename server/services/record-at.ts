import type { Knex } from 'knex'
import { checkPayload } from '#core/checks/sent'
import { stateAt } from '#core/judgement/ahead'
import { standing } from '#core/judgement/standing'
import { checkNotWithdrawn } from '#core/judgement/withdrawal'
import type { CompiledProcedure } from '#core/procedure/compile'
import { Problem } from '#core/problem'
import type { Action, Role } from '#core/access'
import type { EntryKind } from '#core/record/entry'
import { nameKey } from '#core/record/names'
import { inTransaction } from '../db/connection'
import { forCore, type StoredEntry } from '../db/entries'
import { instrumentsOf } from '../db/instruments'
import { knownEntriesOf, rememberEntries } from '../db/known-entries'
import { findLot } from '../db/lots'
import type { Project } from '../db/projects'
import { checkDuties } from './duties'
import { photoIsThere } from './photos'
import { compiledProcedure } from './procedures'
import { checkQualified } from './qualified'
import { actingRole, chainEntries, keepEntries, type Actor, type Chained, type NewEntry } from './record'
import { checkNames, checkStrikes, notInFuture } from './sent-entries'
import { refreshSubject, visibleSubject, type Subject, type WorkedSubject } from './subjects'
import { markLate } from './timing'

interface Checked {
  subject: Subject
  compiled: CompiledProcedure
  news: NewEntry[]
  role: Role
}

/** What somebody does by an entry; by any other kind they record. */
const acts: Partial<Record<EntryKind, Action>> = {
  release: 'release-hold',
  refusal: 'release-hold',
  waiver: 'waive',
  withdrawal: 'withdraw',
  decision: 'decide-answer',
  reply: 'answer-invitation',
  attendance: 'see-points',
  review: 'read-record',
  query: 'read-record',
  watch: 'read-record',
}

/** Entries that a person sends, checked against the procedure before anything is written. */
function checkEntries(compiled: CompiledProcedure, news: NewEntry[]) {
  notInFuture(news)
  for (const entry of news) {
    if (typeof entry.step === 'string' && compiled.names.both.has(entry.step))
      throw new Problem(
        'which-end',
        `"${entry.step}" is made at each end of the joint: say which, as ${entry.step}@upstream.`,
        'step',
      )
    if (entry.step !== null && entry.step !== undefined && !compiled.stepIndex.has(entry.step))
      throw new Problem('unknown-step', `This procedure has no step "${entry.step}".`, 'step')
    if (!entry.step && !['remark', 'photo', 'correction', 'withdrawal'].includes(entry.kind))
      throw new Problem('missing', 'The step is missing.', 'step')
    entry.payload = checkPayload(entry.kind, entry.payload)
    if (entry.kind === 'gathered') throw new Problem('bad-kind', 'A register is asked, not told.', 'kind')
    // What stands from another joint is entered when a joint is opened, never on somebody's word.
    if (entry.payload.once !== undefined)
      throw new Problem('bad-input', 'An answer is given here, not named from elsewhere.', 'payload.once')
  }
}

/**
 * What an entry names – a photo, a lot, an instrument – must be there: a name that leads nowhere can be
 * neither judged nor traced.
 */
async function checkNamed(db: Knex, project: string, entry: NewEntry): Promise<void> {
  if (entry.kind === 'photo') await photoIsThere(db, project, entry.payload.file, 'file')
  if (entry.kind === 'lot' && !(await findLot(db, project, { lot: nameKey(String(entry.payload.lot)) }))) {
    throw new Problem(
      'unknown-lot',
      `Lot ${String(entry.payload.lot)} is not in the register of this project: enter it from its label first.`,
      'lot',
    )
  }
  if (entry.instrument && !(await instrumentsOf(db, project, [entry.instrument])).length)
    throw new Problem('not-found', 'There is no such instrument in the register.', 'instrument')
}

/**
 * Records entries of one subject: all or none, idempotent by id. Role, payload and strikes
 * are checked; the projection is written in the same transaction.
 */
export const recordAt = (
  db: Knex,
  project: Project,
  actor: Actor,
  type: WorkedSubject,
  id: string,
  news: NewEntry[],
): Promise<StoredEntry[]> =>
  recordAtAll(db, project, actor, type, new Map([[id, news]])).then(([one]) => one!)

/** As `recordAt`, of several subjects in one unit of work. */
export async function recordAtAll(
  db: Knex,
  project: Project,
  actor: Actor,
  type: WorkedSubject,
  newsOf: ReadonlyMap<string, NewEntry[]>,
): Promise<StoredEntry[][]> {
  const checked: Checked[] = []
  for (const [id, news] of newsOf) {
    const subject = await visibleSubject(db, actor, type, id)
    if (!subject.procedure)
      throw new Problem('not-open', `This ${type} is not open yet: choose what it is made with first.`, type)
    const compiled = await compiledProcedure(db, project.id, subject.procedure)
    checkEntries(compiled, news)
    for (const entry of news) await checkNamed(db, project.id, entry)
    const role = actingRole(actor, ...news.map((e) => acts[e.kind] ?? 'record'))
    await checkQualified(db, project, actor, compiled, role, news)
    checked.push({ subject, compiled, news, role })
  }
  return inTransaction(db, async (trx) => {
    const written: { id: string; rows: Chained['rows']; entries: StoredEntry[] }[] = []
    for (const { subject, compiled, news, role } of checked) {
      const before = await knownEntriesOf(trx, subject.id)
      if (before.some((e) => e.kind === 'withdrawal'))
        checkNotWithdrawn(
          standing(before.map(forCore)),
          news.filter((e) => !before.some((b) => b.id === e.id)),
          subject.title,
        )
      checkStrikes(before, news, actor)
      checkNames(before, news)
      const accepted = stateAt(subject, Date.now()) === 'accepted'
      await checkDuties(trx, project, compiled, subject, accepted, before, news, actor)
      const openedAt = subject.openedAt === null ? null : Date.parse(subject.openedAt)
      await markLate(trx, news[0]?.carrier ?? actor.person, news, before, openedAt)
      const { entries, fresh, rows } = chainEntries(actor, role, type, subject.id, news, before)
      if (fresh > 0) await refreshSubject(trx, project, subject, entries, before)
      written.push({ id: subject.id, rows, entries })
    }
    // Entries come last: from here on nobody else writes to the feed.
    for (const { id, rows, entries } of written) {
      await keepEntries(trx, id, rows)
      if (rows.length > 0) rememberEntries(id, entries)
    }
    return written.map(({ entries }) => entries)
  })
}
