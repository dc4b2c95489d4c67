import type { Knex } from 'knex'
import { FORGOTTEN, waitAfter, type Patience } from '#core/record/waiting'
import { Problem } from '#core/problem'
import { forgetOldTries, forgetTries, saveTries, triesOf } from '../db/sessions'
import { digestOf } from './record'
import { makeTurn } from './turn'

/** A door with its own count of wrong tries. */
export interface Door {
  name: string
  patience: Patience
}

const key = (door: Door) => digestOf(door.name)
const seconds = (ms: number) => {
  const s = Math.ceil(ms / 1000)
  return s < 90 ? `${s} seconds` : `${Math.ceil(s / 60)} minutes`
}

/** One try at a time: of many at once, each sees what the one before did. */
const inTurn = makeTurn(200, 'Too many people sign in at this moment: try again in a few seconds.')

/**
 * Lets a try through when no door asks for a longer wait. A try that comes too early is
 * refused without being looked at, and does not make the wait longer: whoever waits gets in.
 *
 * @param works whether the secret was right
 */
export const guarded = <T>(
  db: Knex,
  doors: readonly Door[],
  works: () => Promise<T | null>,
): Promise<T | null> => inTurn(() => attempt(db, doors, works))

async function attempt<T>(
  db: Knex,
  doors: readonly Door[],
  works: () => Promise<T | null>,
): Promise<T | null> {
  const now = () => Date.now()
  const before = await Promise.all(doors.map((d) => triesOf(db, key(d))))
  const wait = Math.max(...before.map((t) => (t ? t.nextAt.getTime() - now() : 0)))
  if (wait > 0) throw new Problem('too-many', `Too many wrong tries: wait ${seconds(wait)}.`, null, { wait })
  const result = await works()
  if (result !== null) {
    await forgetTries(db, doors.map(key))
    return result
  }
  for (const door of doors) {
    const tries = await triesOf(db, key(door))
    const recent = tries && tries.nextAt.getTime() > now() - FORGOTTEN ? tries.failures : 0
    await saveTries(db, key(door), {
      failures: recent + 1,
      nextAt: new Date(now() + waitAfter(recent + 1, door.patience)),
    })
  }
  await forgetOldTries(db, new Date(now() - FORGOTTEN))
  return null
}
