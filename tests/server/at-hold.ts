import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { conforming } from '../core/support'

/** The hold of an electrofusion joint. */
export const HOLD = 'before-fusion'

/** Everything that comes before the hold of such a joint, done as it should be; entries as a device sends them. */
export async function doneBeforeHold(db: Knex, joint: string, from = Date.now()) {
  const facts = (await db('joints').where({ id: joint }).first('facts')).facts as string
  const scale = (JSON.parse(facts) as Record<string, number>)['pipe.od']! / 0.18
  return conforming()
    .filter((e) => e.step !== HOLD)
    .slice(0, 23)
    .map((e, i) => ({
      id: uuidv7(),
      kind: e.kind as string,
      step: e.step,
      payload:
        e.step === 'ovality' ? { values: (e.payload.values as number[]).map((v) => v * scale) } : e.payload,
      recordedAt: new Date(from + i).toISOString(),
    }))
}

/** Asking for the release, in words and as a request. */
export const askedAt = (at: number) =>
  [
    { kind: 'confirmation', payload: { answer: 'yes' } },
    { kind: 'request', payload: {} },
  ].map((e, i) => ({ id: uuidv7(), step: HOLD, recordedAt: new Date(at + i).toISOString(), ...e }))
