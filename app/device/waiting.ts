import { ApiProblem } from '../composables/useApi'
import { clockThen, type ClockThen } from '../composables/useNow'
import { deviceDatabase } from './database'
import { seal, unseal } from './sealed'
import { openKey, vaultOwner } from './vault'

/** What was recorded here and is not acknowledged: written before the screen says that it is recorded. */
export interface Waiting<E> {
  place: number
  /** address that it goes to */
  subject: string
  at: number
  entries: E[]
  /** a photo that goes before the entry that names it */
  photo?: WaitingPhoto
  act?: WaitingAct
  /** what was known of the device's clock then */
  clock: ClockThen
  refused?: { code: string; message: string }
}

export interface WaitingPhoto {
  id: string
  mime: string
  /** base64 */
  data: string
}

/** Something done by an address of its own: a joint opened, a report raised. Sent twice it is done once. */
export interface WaitingAct {
  what: 'open' | 'report' | 'release'
  /** address that it is posted to */
  to: string
  body: Record<string, unknown>
  /** what it makes of its subject on this device until the server has it */
  here?: unknown
}

interface Letter<E> {
  person: string
  entries: E[]
  photo?: WaitingPhoto
  act?: WaitingAct
  clock: ClockThen
}

/** Whether things can wait here: the store is open. */
export const canWait = (): boolean => openKey() !== null

/** @returns its place in the queue */
export async function addWaiting<E>(
  subject: string,
  at: number,
  { entries = [], ...rest }: Partial<Pick<Letter<E>, 'entries' | 'photo' | 'act'>>,
): Promise<number> {
  const letter: Letter<E> = { person: vaultOwner()!, entries, clock: clockThen(), ...rest }
  const sealed = await seal(openKey()!, letter)
  try {
    return (await deviceDatabase().waiting.add({ subject, at, sealed } as never)) as unknown as number
  } catch {
    // Nothing is called recorded that is not written.
    throw new ApiProblem(
      'no-room',
      'This device could not write it down: it has no room left. What you typed is still here.',
      null,
      0,
    )
  }
}

/** What waits, in order; of the person whose store is open. */
export async function waitingList<E>(subject?: string): Promise<Waiting<E>[]> {
  const key = openKey()
  if (!key) return []
  const rows = await deviceDatabase().waiting.orderBy('place').toArray()
  const out: Waiting<E>[] = []
  for (const { place, subject: of, at, sealed, refused } of rows) {
    if (subject !== undefined && of !== subject) continue
    // Another person's letters do not open under this key; they stay until that person is back.
    const letter = await unseal<Letter<E>>(key, sealed).catch(() => null)
    if (!letter) continue
    // Letters of an older version say nothing of the clock.
    const { entries, photo, act, clock = clockThen() } = letter
    out.push({ place, subject: of, at, entries, photo, act, clock, refused })
  }
  return out
}

export const removeWaiting = (place: number): Promise<void> => deviceDatabase().waiting.delete(place)

/** The server's refusal is kept beside what it refused: nothing recorded is lost in silence. */
export const refuseWaiting = (place: number, refused: { code: string; message: string }): Promise<number> =>
  deviceDatabase().waiting.update(place, { refused })

/** What was refused is tried once more: what stood against it may be gone. */
export const tryAgain = (place: number): Promise<number> =>
  deviceDatabase().waiting.update(place, { refused: undefined })
