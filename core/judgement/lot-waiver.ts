import { registeredLot } from '../checks/lot'
import type { LotFacts } from '../checks/verdict'
import type { Entry } from '../record/entry'
import { nameKey } from '../record/names'
import { settle, type Judging } from './judging'

/**
 * The waiver that lets a lot through past its date, or null: somebody who may has named it. A quarantined
 * lot is let through by nobody.
 *
 * @param used the answer that names the lot
 * @param entries standing entries of the step
 */
export function lotWaiver(
  used: Entry,
  entries: readonly Entry[],
  lots: Record<string, LotFacts>,
): Entry | null {
  const lot = String(used.payload.lot)
  const quarantinedAt = registeredLot(lots, lot)?.quarantinedAt ?? null
  if (quarantinedAt !== null && used.recordedAt >= quarantinedAt) return null
  const names = ({ payload }: Entry) =>
    payload.lot !== undefined && nameKey(String(payload.lot)) === nameKey(lot)
  return entries.find((e) => e.kind === 'waiver' && names(e)) ?? null
}

/**
 * A lot past its date may be used when somebody who may says so by name.
 *
 * @param out the step as the lot's own dates leave it; settled anew where a waiver names the lot
 */
export function waiveLot(
  out: Judging,
  used: Entry,
  entries: readonly Entry[],
  lots: Record<string, LotFacts>,
): void {
  const waiver = lotWaiver(used, entries, lots)
  if (!waiver) return
  out.computed = 'rejected'
  const { lot } = used.payload
  settle(
    out,
    'accepted',
    `Lot ${String(lot)} is used past its date by waiver: ${String(waiver.payload.reason)}`,
  )
}
