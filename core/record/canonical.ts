import { Problem } from '../problem'

/** Moments that a record can hold: what the database stores unchanged and a person can mean. */
const FIRST = Date.UTC(2000, 0, 1)
const LAST = Date.UTC(2100, 0, 1)

/** Whether a moment (ms since 1970) can stand in a record. */
export const isMoment = (at: number): boolean => Number.isInteger(at) && at >= FIRST && at < LAST

/**
 * Whether a text has a meaning of its own: half of a pair of surrogates has none, and is stored as
 * something else.
 */
export const isWellFormed = (text: string): boolean => !/\p{Surrogate}/u.test(text)

/**
 * Looks through data from outside for text that is not well-formed, keys included.
 *
 * @returns the path to it, or null when all of it can be stored as it is
 */
export function illFormed(data: unknown): (string | number)[] | null {
  const look: { value: unknown; path: (string | number)[] }[] = [{ value: data, path: [] }]
  for (let next = look.pop(); next; next = look.pop()) {
    const { value, path } = next
    if (typeof value === 'string' && !isWellFormed(value)) return path
    if (typeof value !== 'object' || value === null) continue
    for (const [key, inner] of Object.entries(value)) {
      if (!isWellFormed(key)) return path
      look.push({ value: inner, path: [...path, Array.isArray(value) ? Number(key) : key] })
    }
  }
  return null
}

/**
 * Refuses what would be stored otherwise than it is hashed.
 *
 * @throws Problem `bad-text`, `bad-time`
 */
export function checkStorable(entry: {
  payload: unknown
  step?: string | null
  device?: string | null
  instrument?: string | null
  recordedAt: Date
}): void {
  const { payload, step, device, instrument } = entry
  const at = illFormed([payload, step ?? null, device ?? null, instrument ?? null])
  if (at)
    throw new Problem(
      'bad-text',
      'The text holds a broken character: type it again.',
      at.slice(1).join('.') || 'payload',
    )
  if (!isMoment(entry.recordedAt.getTime()))
    throw new Problem(
      'bad-time',
      'The time of the entry is not a day of this century: set the clock of the device.',
      'recordedAt',
    )
}
