import { standing } from '../judgement/standing'
import { Problem } from '../problem'
import type { Entry } from '../record/entry'
import type { ShiftReport } from './shift-report'

/** A signature under a shift report, with the digest of the report that it was given for. */
export interface ShiftSignature {
  person: string
  name: string
  role: string
  image: string
  /** ms */
  at: number
  report: string
  /** ms: the report is of the day up to here */
  until: number
  weather: string
  words: string
  /** rain to come in the night; null when nobody said */
  rain: boolean | null
  /** the report told what is left open */
  told: boolean
}

/** A report is signed by the crew lead first, and by an inspector under the same report. */
export interface ShiftSigned {
  lead: ShiftSignature | null
  inspector: ShiftSignature | null
}

export type ShiftState = 'open' | 'led' | 'signed'
export const shiftStateOf = ({ lead, inspector }: ShiftSigned): ShiftState =>
  inspector ? 'signed' : lead ? 'led' : 'open'

/** A report as a screen and a paper show it. */
export interface ShiftPage {
  report: ShiftReport
  digest: string
  state: ShiftState
  signed: ShiftSigned
  /** the crew has worked on since the crew lead signed: the report is of the day as it is now */
  moved: boolean
  /** ms: the report is of the day up to here */
  until: number
}

/** Who signed a report; a crew lead who signs anew asks the inspector anew. */
export function signaturesOf(entries: readonly Entry[]): ShiftSigned {
  const out: ShiftSigned = { lead: null, inspector: null }
  for (const e of standing(entries)) {
    if (e.kind !== 'signature') continue
    const text = (key: string) => String(e.payload[key] ?? '')
    const signature: ShiftSignature = {
      ...{ person: e.person, name: text('name'), role: e.role, image: text('image'), at: e.recordedAt },
      ...{
        report: text('report'),
        until: Number(e.payload.until),
        weather: text('weather'),
        words: text('words'),
        rain: typeof e.payload.rain === 'boolean' ? e.payload.rain : null,
        told: e.payload.told === true,
      },
    }
    if (e.role === 'crew-lead') Object.assign(out, { lead: signature, inspector: null })
    else out.inspector = signature
  }
  return out
}

/**
 * Whether somebody may sign now.
 *
 * @param report digest of the report as the record makes it at this moment
 * @throws Problem `not-yet`, `moved` when the record has moved on since the crew lead signed, `own-work`
 */
export function checkShiftSignature(
  { lead }: ShiftSigned,
  { person, role, report }: { person: string; role: string; report: string },
): void {
  if (role === 'crew-lead') return
  if (!lead) throw new Problem('not-yet', 'The crew lead signs first.', 'role')
  if (lead.report !== report)
    throw new Problem(
      'moved',
      'The record has moved on since the crew lead signed: the crew lead signs again.',
      'report',
    )
  if (lead.person === person)
    throw new Problem('own-work', 'Who signed for the crew does not sign for the inspection.', 'role')
}
