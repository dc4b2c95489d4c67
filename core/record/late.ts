/**
 * Whether the time that a device gives for an entry can be believed. With every reply a
 * device gets a signed stamp of the server's time; each entry carries the stamp that was
 * current when it was recorded, and a running number of the device. A moment between
 * the stamp and the arrival, in the order of unbroken numbers, is believed: also after
 * hours without a signal. Anything else is kept and marked late.
 */
export const lateReasons = [
  'no-stamp',
  'before-contact',
  'gap',
  'out-of-order',
  'before-opening',
  'clock-moved',
] as const
export type LateReason = (typeof lateReasons)[number]

/** What an entry says of its own time. All ms since 1970. */
export interface TimedEntry {
  recordedAt: number
  /** the server's time in the stamp; null without a valid one */
  stampAt: number | null
  /** the device's running number, from 1 */
  number: number | null
  /** the device's clock was moved between its last contact and its next one */
  moved?: boolean
}

/** What the server knows of the device from the entries before. */
export interface DeviceRun {
  lastNumber: number
  lastRecordedAt: number
}

/** How long an entry without a stamp may have been on its way. */
export const ON_ITS_WAY = 2 * 60_000
/** How far a device's idea of the server's time moves between contacts. */
export const DRIFT = 5000

/**
 * @param arrival when the server has it, ms
 * @param device null for its first entry
 * @param openedAt when the subject was opened, ms; null when that does not matter
 * @returns null for an entry in time, else why its time proves nothing
 */
export function lateness(
  entry: TimedEntry,
  arrival: number,
  device: DeviceRun | null,
  openedAt: number | null,
): LateReason | null {
  const { recordedAt, stampAt, number, moved } = entry
  if (openedAt !== null && recordedAt < openedAt - DRIFT) return 'before-opening'
  if (moved) return 'clock-moved'
  if (stampAt === null || number === null) return arrival - recordedAt > ON_ITS_WAY ? 'no-stamp' : null
  if (recordedAt < stampAt - DRIFT) return 'before-contact'
  if (number !== (device?.lastNumber ?? 0) + 1) return 'gap'
  if (device && recordedAt < device.lastRecordedAt - DRIFT) return 'out-of-order'
  return null
}

/** The device's run after an entry. */
export const runAfter = (device: DeviceRun | null, entry: TimedEntry): DeviceRun => ({
  lastNumber: Math.max(device?.lastNumber ?? 0, entry.number ?? 0),
  lastRecordedAt: Math.max(device?.lastRecordedAt ?? 0, entry.recordedAt),
})

/**
 * When a joint that was opened without a signal counts as opened. A moment between the device's last
 * contact and the arrival is believed; any other proves nothing, and the joint counts from its arrival, so
 * that what is dated before it is late.
 *
 * @param at by the device, ms
 * @param stampAt the server's time in the stamp, ms; null without a valid one
 * @param device what the server has of the device: nothing is opened before what was recorded there earlier
 * @returns ms since 1970
 */
export function openedWhen(
  at: number,
  stampAt: number | null,
  arrival: number,
  device: DeviceRun | null = null,
): number {
  const earliest = Math.max(stampAt ?? Infinity, device?.lastRecordedAt ?? -Infinity) - DRIFT
  return at >= earliest && at <= arrival + DRIFT ? Math.min(at, arrival) : arrival
}

/** A clock that is off by less than this between two contacts drifts; beyond it somebody moved it. */
export const MOVED = 2 * 60_000

/**
 * Whether a device's clock was moved since something was recorded.
 *
 * @param then how far the clock was off when it was recorded, as of the last contact, ms
 * @param now how far it is off at the next contact, ms
 */
export const clockMoved = (then: number, now: number): boolean => Math.abs(now - then) > MOVED

/** Why an entry is late, for a person. */
export const lateSentences: Record<LateReason, string> = {
  'no-stamp': 'the device had no stamp of the server’s time',
  'before-contact': 'it is dated before the device was last in contact',
  gap: 'an entry of the device before it is missing',
  'out-of-order': 'it is dated before what the device recorded earlier',
  'before-opening': 'it is dated before this was opened',
  'clock-moved': 'the clock of the device was moved while it had no contact',
}
