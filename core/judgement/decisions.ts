import { answering } from '../checks/registry'
import type { Entry } from '../record/entry'
import type { ReleaseJudgement } from './types'

/** What stands at one step, looked through once. */
export interface AtStep {
  /**
   * the last answer that counts: after a nonconformance was raised, or a decision to measure again, only
   * what was done since
   */
  last: Entry | null
  /** the last answer of somebody else */
  other: Entry | null
  /**
   * every answer that counts or that a crew has struck, in order: a rejection among them stands until
   * somebody decides
   */
  tried: readonly Entry[]
  ncr: NcrState | null
  /** a decision on the last answer, made after it */
  decision: Entry | null
}
const NOTHING: AtStep = { last: null, other: null, tried: [], ncr: null, decision: null }
const NONE: readonly Entry[] = []

/** A decision that says which answer stands, or that none does. */
const chooses = (e: Entry) =>
  e.kind === 'decision' && (typeof e.payload.stands === 'string' || e.payload.verdict === 'again')

/**
 * @param entries standing entries of the step in order
 * @param struck answers that a crew has struck: no answers any more, but what they showed was seen
 */
export function lookThrough(entries: readonly Entry[], struck: readonly Entry[] = NONE): AtStep {
  if (entries.length === 0 && struck.length === 0) return NOTHING
  const only = entries.length === 1 && struck.length === 0 ? entries[0]! : null
  if (only && answering.has(only.kind))
    return { last: only, other: null, tried: entries, ncr: null, decision: null }
  let [ncrs, choice, decision, answers]: [boolean, Entry | null, Entry | null, number] = [
    false,
    null,
    null,
    0,
  ]
  for (const e of entries) {
    if (answering.has(e.kind)) answers++
    else if (e.kind === 'ncr') ncrs = true
    else if (chooses(e)) choice = e
    else if (e.kind === 'decision') decision = e
  }
  const ncr = ncrs ? ncrOf(entries) : null
  const since = Math.max(ncr?.raisedAt ?? -Infinity, choice?.recordedAt ?? -Infinity)
  let kept: readonly Entry[] =
    answers === entries.length && since === -Infinity
      ? entries
      : entries.filter((e) => answering.has(e.kind) && e.recordedAt > since)
  const chosen =
    choice && (!ncr || choice.recordedAt > ncr.raisedAt)
      ? entries.find((e) => answering.has(e.kind) && e.id === choice.payload.stands)
      : undefined
  if (chosen) kept = [chosen, ...kept]
  const last = kept.at(-1) ?? null
  const other = last === null ? null : (kept.findLast((e) => e.person !== last.person) ?? null)
  const seen = struck.filter((e) => e.recordedAt > since)
  const tried = seen.length === 0 ? kept : [...kept, ...seen].sort((a, b) => a.recordedAt - b.recordedAt)
  const latest = tried.at(-1)
  if (decision && latest && decision.recordedAt < latest.recordedAt) decision = null
  return { last, other, tried, ncr, decision: latest ? decision : null }
}

const releases = { request: 'requested', release: 'released', refusal: 'refused', waiver: 'waived' } as const
export const NO_RELEASE: ReleaseJudgement = { state: 'none', at: null, by: null, reason: null }

/**
 * Whether an entry speaks of the release of a hold point: a waiver that names a lot speaks of the lot,
 * and a late one proves nothing.
 */
export const ofRelease = (e: Entry): boolean =>
  e.kind in releases && e.payload.lot === undefined && e.late !== true

/** Where a hold point stands by its last request or decision. */
export function releaseOf(entries: readonly Entry[]): ReleaseJudgement {
  for (let i = entries.length - 1; i >= 0; i--) {
    const e = entries[i]!
    if (ofRelease(e))
      return {
        state: releases[e.kind as keyof typeof releases],
        at: e.recordedAt,
        by: e.person,
        reason: (e.payload.reason as string | undefined) ?? null,
      }
  }
  return NO_RELEASE
}

export interface NcrState {
  number: string
  open: boolean
  disposition: string | null
  raisedAt: number
}

/** The last nonconformance raised at a step, and whether it is closed. */
export function ncrOf(entries: readonly Entry[]): NcrState | null {
  let raised: Entry | null = null
  for (const e of entries) if (e.kind === 'ncr' && e.payload.event === 'raised') raised = e
  if (!raised) return null
  const number = String(raised.payload.number)
  const closed = entries.find(
    (e) => e.kind === 'ncr' && e.payload.event === 'closed' && e.payload.number === number,
  )
  return {
    number,
    open: !closed,
    disposition: (closed?.payload.disposition as string | undefined) ?? null,
    raisedAt: raised.recordedAt,
  }
}

export const conceded = (ncr: NcrState | null) => ncr !== null && !ncr.open && ncr.disposition === 'use-as-is'
