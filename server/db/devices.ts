import type { Knex } from 'knex'
import type { DeviceRun } from '#core/record/late'

/** The run of a device in one person's hands; its row is held until the transaction ends. */
export async function holdDevice(trx: Knex, id: string, person: string): Promise<DeviceRun | null> {
  const row = await trx('devices')
    .where({ id, person })
    .forUpdate()
    .first<{ last_number: number; last_recorded_at: Date } | undefined>('last_number', 'last_recorded_at')
  return row ? { lastNumber: row.last_number, lastRecordedAt: row.last_recorded_at.getTime() } : null
}

export const lastNumberOf = async (db: Knex, id: string, person: string): Promise<number> =>
  (await db('devices').where({ id, person }).first('last_number'))?.last_number ?? 0

export const saveDevice = async (trx: Knex, id: string, person: string, run: DeviceRun): Promise<void> =>
  void (await trx('devices')
    .insert({
      id,
      person,
      last_number: run.lastNumber,
      last_recorded_at: new Date(run.lastRecordedAt),
      seen_at: new Date(),
    })
    .onConflict(['id', 'person'])
    .merge())
