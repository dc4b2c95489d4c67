import type { Knex } from 'knex'
import { ncrOf, releaseOf } from '#core/judgement/decisions'
import { answering } from '#core/checks/registry'
import { needsReason } from '#core/judgement/again'
import { judge } from '#core/judgement/judge'
import { openBefore, waived } from '#core/judgement/release'
import { standing } from '#core/judgement/standing'
import { Problem } from '#core/problem'
import type { CompiledProcedure } from '#core/procedure/compile'
import { ofOtherEnd } from '#core/procedure/ends'
import {
  checkAttendance,
  checkConditions,
  checkCovered,
  checkDecision,
  checkRelease,
  checkResponse,
} from '#core/judgement/duties'
import { askedAt, conditionsOf } from '#core/judgement/asked'
import type { Entry } from '#core/record/entry'
import { forCore, type StoredEntry } from '../db/entries'
import type { Subject } from './subjects'
import type { Project } from '../db/projects'
import { judgeOptions, ofSubject, type Placed } from './judging'
import type { Actor, NewEntry } from './record'

/**
 * Whether a standing release at or after a step covers it, and whether a report has opened the step again
 * since.
 */
function signedOff(compiled: CompiledProcedure, stands: readonly Entry[], step: string, accepted: boolean) {
  const index = compiled.stepIndex.get(step) ?? -1
  let since = -Infinity
  for (const made of compiled.steps.slice(index)) {
    if (compiled.steps[index] && ofOtherEnd(made, compiled.steps[index])) continue
    const hold = made.step
    const release = releaseOf(stands.filter((e) => e.step === hold.key))
    if (release.state === 'released' || release.state === 'waived') since = Math.max(since, release.at!)
  }
  const ncr = ncrOf(stands.filter((e) => e.step === step))
  return { covered: since > -Infinity, accepted, reopened: ncr !== null && ncr.open && ncr.raisedAt > since }
}

/** The step whose record an entry changes: its own, or that of what it strikes. */
function changes(entry: NewEntry, before: readonly StoredEntry[]): string | null {
  if (entry.kind === 'correction') return before.find((e) => e.id === entry.payload.strikes)?.step ?? null
  return answering.has(entry.kind) ? (entry.step ?? null) : null
}

/** A release needs its request and everything before it done; a waiver names what it leaves open. */
async function checkHold(
  db: Knex,
  project: Project,
  compiled: CompiledProcedure,
  subject: Pick<Subject, 'facts'> & Placed,
  before: readonly StoredEntry[],
  entry: NewEntry,
) {
  const entries = before.map(forCore)
  const judgement = judge(compiled, subject.facts, entries, Date.now(), {
    ...(await judgeOptions(db, project, compiled.procedure.key, entries)),
    ...(await ofSubject(db, project, compiled, subject)),
  })
  const index = compiled.stepIndex.get(entry.step!)!
  if (judgement.steps[index]!.point !== 'H') return
  const open = openBefore(compiled, judgement, standing(entries), entry.step!)
  const title = (key: string) => compiled.steps[compiled.stepIndex.get(key)!]!.step.title
  if (entry.kind === 'release') {
    // A test that must be accepted first is of no step of this joint.
    if (judgement.steps[index]!.state === 'blocked')
      throw new Problem('not-ready', judgement.steps[index]!.sentence, 'step')
    if (open.length > 0)
      throw new Problem(
        'not-ready',
        `Not done yet: ${open.map(title).join('; ')}. A waiver that names them may be given with its reason.`,
        'step',
        { open },
      )
    if (judgement.steps[index]!.release.state !== 'requested')
      throw new Problem('not-requested', 'Nobody has asked for this release.', 'step')
  }
  const named = waived(entry.payload)
  const unnamed = open.filter((key) => !named.includes(key))
  if (entry.kind === 'waiver' && unnamed.length > 0)
    throw new Problem(
      'not-named',
      `The waiver must name what it leaves open: ${unnamed.map(title).join('; ')}.`,
      'waives',
      { open },
    )
}

/** After a rejection that nobody has decided about, a further answer says why it is given. */
async function checkAgain(
  db: Knex,
  project: Project,
  compiled: CompiledProcedure,
  subject: Pick<Subject, 'facts'> & Placed,
  before: readonly StoredEntry[],
  entry: NewEntry,
) {
  const mine = before.filter((e) => e.step === entry.step)
  if (entry.payload.reason !== undefined || !mine.some((e) => answering.has(e.kind as NewEntry['kind'])))
    return
  const entries = before.map(forCore)
  const judgement = judge(compiled, subject.facts, entries, Date.now(), {
    ...(await judgeOptions(db, project, compiled.procedure.key, entries)),
    ...(await ofSubject(db, project, compiled, subject)),
  })
  const judged = judgement.steps[compiled.stepIndex.get(entry.step!)!]!
  if (needsReason(judged, mine.map(forCore)))
    throw new Problem('needs-reason', 'This was rejected: say why it is measured or done again.', 'reason')
}

/** Who may do what at a subject, from its record. In the transaction that writes. */
export async function checkDuties(
  db: Knex,
  project: Project,
  compiled: CompiledProcedure,
  subject: Pick<Subject, 'facts'> & Placed,
  accepted: boolean,
  before: readonly StoredEntry[],
  news: readonly NewEntry[],
  actor: Actor,
): Promise<void> {
  const known = new Set(before.map((e) => e.id))
  const fresh = news.filter((e) => !known.has(e.id))
  if (fresh.length === 0) return
  // A waiver for a lot lets the lot pass, not the hold point.
  const stands = standing(before.map(forCore)).filter(
    (e) => e.kind !== 'waiver' || e.payload.lot === undefined,
  )
  for (const entry of fresh) {
    if (entry.kind === 'release' || entry.kind === 'waiver') {
      checkRelease(stands, entry.step!, actor.person)
      if (entry.payload.lot === undefined) await checkHold(db, project, compiled, subject, before, entry)
    }
    if (entry.kind === 'reply' || entry.kind === 'attendance') {
      const { kind, payload, recordedAt } = entry
      const said = { kind, step: entry.step ?? null, payload, recordedAt: recordedAt.getTime() }
      checkAttendance(stands, said, actor.roles)
    }
    if (entry.kind === 'release') {
      const at = compiled.stepIndex.get(entry.step!)!
      checkConditions(conditionsOf(entry), new Set(compiled.steps.slice(at + 1).map((s) => s.step.key)))
    }
    if (entry.kind === 'response') {
      const at = (step: string) => stands.filter((e) => e.step === step)
      const holds = [...new Set(stands.flatMap((e) => (e.kind === 'release' && e.step ? [e.step] : [])))]
      const asked = askedAt(entry.step!, at(entry.step!), holds.map(at))
      checkResponse(asked, entry.payload, actor.person, actor.roles)
    }
    if (entry.kind === 'decision') checkDecision(stands, entry.step!, actor.person, entry.payload)
    if (answering.has(entry.kind)) await checkAgain(db, project, compiled, subject, before, entry)
    const step = changes(entry, before)
    if (step !== null) checkCovered(signedOff(compiled, stands, step, accepted), actor.roles)
  }
}
