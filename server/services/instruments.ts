import type { Knex } from 'knex'
import type { DimensionKey } from '#core/quantity/dimension'
import { dimensions } from '#core/quantity/dimension'
import { readQuantity } from '#core/quantity/read'
import { Problem } from '#core/problem'
import { nameKey } from '#core/record/names'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { insertCalibration, insertInstrument, instrumentsOf, jointsReadWith } from '../db/instruments'
import type { Project } from '../db/projects'
import { askRejudge } from './jobs'
import { actingRole, appendEntries, type Actor } from './record'

/** What a person types of an instrument; quantities with their units. */
export interface InstrumentTyped {
  id: string
  name: string
  kind: string
  quantity: string
  min: string
  max: string
  resolution: string
  uncertainty: string
}

const isDimension = (key: string): key is DimensionKey => Object.hasOwn(dimensions, key)

/** Adds an instrument to the register. Without a calibration, readings with it do not count yet. */
export async function addInstrument(
  db: Knex,
  project: Project,
  actor: Actor,
  typed: InstrumentTyped,
): Promise<void> {
  const role = actingRole(actor, 'keep-instruments')
  if (!isDimension(typed.quantity))
    throw new Problem(
      'unknown-choice',
      `"${typed.quantity}" is not a quantity that is measured here.`,
      'quantity',
    )
  const quantity = typed.quantity
  const read = (field: 'min' | 'max' | 'resolution' | 'uncertainty') =>
    readQuantity(typed[field], quantity, { field })
  const [min, max, resolution, uncertainty] = [
    read('min'),
    read('max'),
    read('resolution'),
    read('uncertainty'),
  ]
  if (!(max > min)) throw new Problem('out-of-bounds', 'The range must end above where it begins.', 'max')
  // A temperature is read with its offset; a resolution or an uncertainty of one has none.
  const span = (field: 'resolution' | 'uncertainty', value: number) => {
    if (!(value >= 0) || value > max - min)
      throw new Problem('out-of-bounds', `The ${field} must lie between nothing and the range.`, field)
  }
  span('resolution', resolution)
  span('uncertainty', uncertainty)
  await inTransaction(db, async (trx) => {
    if ((await instrumentsOf(trx, project.id)).some((i) => nameKey(i.name) === nameKey(typed.name)))
      throw new Problem('duplicate', `There is an instrument "${typed.name}" already.`, 'name')
    await insertInstrument(trx, project.id, { ...typed, min, max, resolution, uncertainty })
    await appendEntries(trx, actor, role, 'instrument', typed.id, [
      { id: uuidv7(), kind: 'register', payload: { ...typed }, recordedAt: new Date() },
    ])
  })
}

export interface CalibrationTyped {
  from: string
  until: string
  certificate: string
}

/** From the first moment of its first day to the last of its last. */
export function calibrationSpan(typed: Pick<CalibrationTyped, 'from' | 'until'>): {
  from: Date
  until: Date
} {
  const [from, until] = [new Date(`${typed.from}T00:00:00Z`), new Date(`${typed.until}T23:59:59Z`)]
  if (!(until > from)) throw new Problem('out-of-bounds', 'A calibration ends after it begins.', 'until')
  if (from.getTime() > Date.now())
    throw new Problem('future', 'A calibration is entered when it has been made.', 'from')
  return { from, until }
}

/** Writes a calibration of an instrument that is there, and says so in its record. */
export async function keepCalibration(
  trx: Knex,
  project: Project,
  actor: Actor,
  instrument: string,
  typed: CalibrationTyped,
): Promise<void> {
  const role = actingRole(actor, 'keep-instruments')
  await insertCalibration(trx, project.id, {
    ...{ id: uuidv7(), instrument, ...calibrationSpan(typed) },
    certificate: typed.certificate || null,
  })
  await appendEntries(trx, actor, role, 'instrument', instrument, [
    { id: uuidv7(), kind: 'calibration', payload: { ...typed }, recordedAt: new Date() },
  ])
}

/**
 * Enters a calibration. Readings taken while no calibration ran still do not count; joints with readings by
 * this instrument are judged anew, as the calibration may lie back.
 */
export async function addCalibration(
  db: Knex,
  project: Project,
  actor: Actor,
  instrument: string,
  typed: CalibrationTyped,
): Promise<{ job: string; total: number }> {
  actingRole(actor, 'keep-instruments')
  calibrationSpan(typed)
  const found = (await instrumentsOf(db, project.id)).find((i) => i.id === instrument)
  if (!found) throw new Problem('not-found', 'There is no such instrument.', 'instrument')
  const joints = await jointsReadWith(db, project.id, instrument)
  return inTransaction(db, async (trx) => {
    await keepCalibration(trx, project, actor, instrument, typed)
    return askRejudge(trx, project, actor, 'calibration', { joints })
  })
}
