import { answering } from '../checks/registry'
import { Problem } from '../problem'
import type { Role } from '../access'
import type { Entry } from '../record/entry'
import type { Condition } from './asked'
import type { Asked } from './types'

/**
 * Separation of duties, decided from the record alone: who did a thing does not judge it.
 * Each rule takes the standing entries of the subject and the person who wants to act.
 */
const own = (sentence: string, field = 'person'): never => {
  throw new Problem('own-work', sentence, field)
}

/** Whoever asked last for the release of a step does not release it. */
export function checkRelease(entries: readonly Entry[], step: string, person: string): void {
  const asked = entries.findLast((e) => e.kind === 'request' && e.step === step)
  if (asked?.person === person) own('Who asks for a release does not give it: another inspector must look.')
}

/**
 * Nobody accepts what they recorded themselves against the criterion, nor says that their own answer
 * stands against another's.
 */
export function checkDecision(
  entries: readonly Entry[],
  step: string,
  person: string,
  { verdict, stands }: Record<string, unknown>,
): void {
  const given = entries.filter((e) => e.step === step && answering.has(e.kind))
  if (stands !== undefined) {
    const chosen = given.find((e) => e.id === stands)
    if (!chosen) throw new Problem('not-found', 'The answer that is to stand is not at this step.', 'stands')
    if (chosen.person === person)
      own('Nobody says that their own answer stands: another inspector must decide.')
  } else if (verdict === 'accept' && given.some((e) => e.person === person))
    own('Nobody accepts their own answer against the criterion: another inspector must decide.')
}

/** Whoever wrote any line of a revision does not review it. */
export function checkReview(entries: readonly Entry[], person: string): void {
  if (entries.some((e) => e.kind === 'draft' && e.person === person))
    own('Who wrote on a revision does not review it: a second engineer does.')
}

/** Whoever did any of the rework of a report does not verify it, whatever was decided since. */
export function checkVerification(entries: readonly Entry[], person: string): void {
  if (entries.some((e) => e.kind === 'rework' && e.person === person))
    own('Nobody verifies rework that they did themselves: another inspector must look.', 'ncr')
}

/** A witness of a test did not run it. */
export function checkWitness(entries: readonly Entry[], person: string): void {
  const ran = new Set(['start', 'run', 'event', 'confirmation'])
  if (entries.some((e) => ran.has(e.kind) && e.person === person))
    own('Who ran the test does not witness it.')
}

/**
 * The witness says that he was there; whoever waits says that he was not, and not before the time that he
 * was invited for. Nobody answers an invitation that was not given.
 */
export function checkAttendance(
  entries: readonly Entry[],
  entry: Pick<Entry, 'kind' | 'step' | 'payload' | 'recordedAt'>,
  roles: readonly Role[],
): void {
  const invited = entries.findLast((e) => e.kind === 'invitation' && e.step === entry.step)
  if (!invited) throw new Problem('not-invited', 'Nobody was invited to this.', 'step')
  if (entry.kind !== 'attendance') return
  if (entry.payload.present === true) {
    if (!roles.includes('witness'))
      throw new Problem('own-work', 'The witness alone says that he was there.', 'present')
  } else if (entry.recordedAt < Date.parse(String(invited.payload.for)))
    throw new Problem('too-early', 'The time that the witness is invited for has not come.', 'present')
}

/** Whether somebody may answer what is asked: never who asked, and an inspector alone what is asked of one. */
export const mayRespond = (
  { by, to }: Pick<Asked, 'by' | 'to'>,
  person: string,
  roles: readonly Role[],
): boolean => by !== person && (to !== 'inspector' || roles.includes('inspector'))

/** An answer answers something that is asked at its step, and is given by whom it is asked of. */
export function checkResponse(
  asked: readonly Asked[],
  { to, index }: Record<string, unknown>,
  person: string,
  roles: readonly Role[],
): void {
  const found = asked.find((a) => a.id === to && a.index === ((index as number | undefined) ?? null))
  if (!found) throw new Problem('not-found', 'Nothing of this is asked at this step.', 'to')
  if (mayRespond(found, person, roles)) return
  if (found.by === person) own('Who asks does not answer.', 'to')
  throw new Problem('forbidden', 'This is asked of an inspector.', 'to')
}

/** Conditions of a release are for steps that are still to come. */
export function checkConditions(conditions: readonly Condition[], later: ReadonlySet<string>): void {
  const wrong = conditions.findIndex((c) => !later.has(c.step))
  if (wrong >= 0)
    throw new Problem(
      'bad-condition',
      'A condition of a release is for a step after it.',
      `conditions[${wrong}].step`,
    )
}

/** Where a sign-off stands in a record: what it covers is changed by inspectors only. */
export interface SignedOff {
  /** a standing release or waiver of a hold point at or after the step */
  covered: boolean
  /** the joint is accepted */
  accepted: boolean
  /** a nonconformance at the step asks for new work */
  reopened: boolean
}

/** A crew does not change what an inspector has released, nor an accepted joint. */
export function checkCovered(at: SignedOff, roles: readonly Role[]): void {
  if (roles.includes('inspector') || at.reopened) return
  if (at.covered)
    throw new Problem(
      'signed-off',
      'An inspector has released this: only an inspector changes what was recorded before.',
      'step',
    )
  if (at.accepted)
    throw new Problem('signed-off', 'This joint is accepted: only an inspector changes its record.', 'step')
}
