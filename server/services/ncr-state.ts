import { standing } from '#core/judgement/standing'
import { forCore, type StoredEntry } from '../db/entries'
import type { NcrProjection } from '../db/ncrs'

/** The state of a report from its entries. */
export function projectNcr(entries: StoredEntry[]): NcrProjection {
  const out: NcrProjection = { state: 'open', disposition: null, due: null, reworkedBy: null, closedAt: null }
  for (const e of standing(entries.map(forCore))) {
    if (e.kind === 'disposition')
      Object.assign(out, {
        ...{ state: 'disposed', disposition: e.payload.disposition, reworkedBy: null },
        due: typeof e.payload.due === 'string' ? e.payload.due : null,
      })
    // What the client does not agree to is decided anew.
    if (e.kind === 'concession' && e.payload.agrees === false)
      Object.assign(out, { state: 'open', disposition: null, due: null, reworkedBy: null })
    if (e.kind === 'rework') Object.assign(out, { state: 'reworked', reworkedBy: e.person })
    if (e.kind === 'verification')
      Object.assign(
        out,
        e.payload.accepted === true
          ? { state: 'closed', closedAt: new Date(e.recordedAt) }
          : { state: 'disposed', reworkedBy: null },
      )
  }
  return out
}
