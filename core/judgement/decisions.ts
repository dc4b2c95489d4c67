import type { Entry, EntryKind } from '../record/entry'
import type { ReleaseJudgement } from './types'

/** Entry kinds that answer a check (the others ask, decide, remark or correct). */
export const answering = new Set<EntryKind>(['reading', 'confirmation', 'choice', 'count', 'clock', 'lot'])

/** What stands at one step, looked through once. */
export interface AtStep {
  /** the last answer that counts: after a nonconformance was raised, only what was done since */
  last: Entry | null
  /** the last answer of somebody else */
  other: Entry | null
  ncr: NcrState | null
  /** a decision made after the last answer */
  decision: Entry | null
}
const NOTHING: AtStep = { last: null, other: null, ncr: null, decision: null }

export function lookThrough(entries: readonly Entry[]): AtStep {
  if (entries.length === 0) return NOTHING
  let [ncrs, answered, decision]: [boolean, Entry | null, Entry | null] = [false, null, null]
  for (const e of entries) {
    if (answering.has(e.kind)) answered = e
    else if (e.kind === 'decision') decision = e
    else if (e.kind === 'ncr') ncrs = true
  }
  if (decision && (!answered || decision.recordedAt < answered.recordedAt)) decision = null
  const ncr = ncrs ? ncrOf(entries) : null
  if (ncr && answered && answered.recordedAt <= ncr.raisedAt) answered = null
  let other: Entry | null = null
  if (answered) for (const e of entries) if (e.person !== answered.person && answering.has(e.kind) && (!ncr || e.recordedAt > ncr.raisedAt)) other = e
  return { last: answered, other, ncr, decision }
}

const releases = { request: 'requested', release: 'released', refusal: 'refused', waiver: 'waived' } as const
export const NO_RELEASE: ReleaseJudgement = { state: 'none', at: null, by: null, reason: null }

/** Where a hold point stands by its last request or decision. */
export function releaseOf(entries: readonly Entry[]): ReleaseJudgement {
  for (let i = entries.length - 1; i >= 0; i--) {
    const e = entries[i]!
    if (e.kind in releases) return { state: releases[e.kind as keyof typeof releases], at: e.recordedAt, by: e.person, reason: (e.payload.reason as string | undefined) ?? null }
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
  const closed = entries.find((e) => e.kind === 'ncr' && e.payload.event === 'closed' && e.payload.number === number)
  return { number, open: !closed, disposition: (closed?.payload.disposition as string | undefined) ?? null, raisedAt: raised.recordedAt }
}

export const conceded = (ncr: NcrState | null) => ncr !== null && !ncr.open && ncr.disposition === 'use-as-is'
