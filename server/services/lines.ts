import { wordedIn } from '#core/quantity/site-units'
import { showQuantity } from '#core/quantity/show'
import type { Knex } from 'knex'
import { readAlignment } from '#core/line/alignment'
import { writeAlignments } from '#core/line/geojson'
import { readProfile } from '#core/line/profile'
import type { ProfilePoint } from '#core/pressure/pack'
import { nameKey } from '#core/record/names'
import { Problem } from '#core/problem'
import { readQuantity } from '#core/quantity/read'
import { inTransaction } from '../db/connection'
import { insertLine, lineGeometry, saveLine, workedStations, type LineRow } from '../db/lines'
import { structuresOf } from '../db/lists'
import { alignmentsOf, type Project } from '../db/projects'
import { noteChange } from './changes'
import { runHeavy } from './heavy/run'
import type { SentFile } from './heavy/table-files'
import type { Actor } from './record'

const textOf = ({ data }: SentFile) => Buffer.from(data, 'base64').toString('utf8')

/** What a line would be by a file: an alignment in GeoJSON, or a profile as a table. Nothing is kept. */
export async function readLineFile(file: SentFile, which: number | null) {
  if (/\.(geo)?json$/i.test(file.name)) {
    const { name, path, profile, remarks } = readAlignment(textOf(file), which)
    return { kind: 'alignment' as const, name, path, profile, ground: [], remarks }
  }
  const table = await runHeavy('table', file)
  const { profile, ground } = readProfile(table)
  return {
    kind: 'profile' as const,
    name: null,
    path: [],
    profile,
    ground,
    remarks: table.remark ? [table.remark] : [],
  }
}

export interface LineTyped {
  key: string
  name: string
  material: string
  /** lengths with their units; ends of the profile when left out */
  from: string
  to: string
  designPressure: string
  profile: ProfilePoint[]
  ground: ProfilePoint[]
  path: { lon: number; lat: number; station: number }[]
}

const KEY = /^[A-Za-z0-9][A-Za-z0-9-]{0,19}$/

function checkRising(points: readonly { station: number }[], field: string) {
  const at = points.findIndex((p, i) => i > 0 && p.station <= points[i - 1]!.station)
  if (at > 0)
    throw new Problem(
      'not-rising',
      `Stations rise along a line, but ${points[at]!.station} m follows ${points[at - 1]!.station} m.`,
      field,
    )
}

function lineFrom(id: string, typed: LineTyped): LineRow {
  const { key, name, material, profile, ground, path } = typed
  if (!KEY.test(key))
    throw new Problem('bad-key', 'A key is 1 to 20 letters, digits and hyphens, such as TF.', 'key')
  const [from, to] = [
    readQuantity(typed.from, 'length', { field: 'from', bareUnit: 'm' }),
    readQuantity(typed.to, 'length', { field: 'to', bareUnit: 'm' }),
  ]
  if (!(to > from)) throw new Problem('contradiction', 'A line ends after it begins.', 'to')
  checkRising(profile, 'profile')
  checkRising(ground, 'ground')
  checkRising(path, 'path')
  const facts: LineRow['facts'] = {}
  if (typed.designPressure.trim())
    facts['line.designPressure'] = readQuantity(typed.designPressure, 'pressure', {
      field: 'designPressure',
      bareUnit: 'bar',
    })
  return {
    id,
    key,
    name,
    material,
    from,
    to,
    profile,
    ground,
    path,
    facts,
  }
}

async function freeKey(trx: Knex, project: Project, key: string, but: string | null) {
  if ((await alignmentsOf(trx, project.id)).some((l) => l.id !== but && nameKey(l.key) === nameKey(key)))
    throw new Problem('duplicate', `There is a line "${key}" already.`, 'key')
}

export async function addLine(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  typed: LineTyped,
): Promise<void> {
  const line = lineFrom(id, typed)
  await inTransaction(db, async (trx) => {
    await freeKey(trx, project, line.key, null)
    await insertLine(trx, project.id, line)
    const { key, name, from, to } = line
    await noteChange(trx, actor, 'plan-work', { what: 'line', line: id, key, name, from, to })
  })
}

/** Changes a line; what is planned on it stays on it. */
export async function changeLine(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  typed: LineTyped & { reason: string },
): Promise<void> {
  const before = (await alignmentsOf(db, project.id)).find((l) => l.id === id)
  if (!before) throw new Problem('not-found', 'There is no such line.', 'line')
  const line = lineFrom(id, typed)
  await inTransaction(db, async (trx) => {
    await freeKey(trx, project, line.key, id)
    const worked = await workedStations(trx, id)
    const said = (s: number) => wordedIn(project.settings.units, () => showQuantity(s, 'length', 'm', 7))
    if (worked && worked.from < line.from)
      throw new Problem('in-use', `Work is planned from station ${said(worked.from)} on.`, 'from')
    if (worked && worked.to > line.to)
      throw new Problem('in-use', `Work is planned up to station ${said(worked.to)}.`, 'to')
    await saveLine(trx, { ...line, facts: { ...before.facts, ...line.facts } })
    const { from, to } = before
    await noteChange(trx, actor, 'plan-work', {
      what: 'line',
      line: id,
      before: { key: before.key, name: before.name, from, to },
      after: { key: line.key, name: line.name, from: line.from, to: line.to },
      reason: typed.reason,
    })
  })
}

/** The lines of a project with what stands on them, as GeoJSON. */
export async function linesGeoJson(db: Knex, project: Project) {
  const [lines, geometry, structures] = await Promise.all([
    alignmentsOf(db, project.id),
    lineGeometry(db, project.id),
    structuresOf(db, project.id),
  ])
  return writeAlignments(
    lines.map(({ id, key, name, material, profile }) => ({
      ...{ key, name, material, profile },
      path: geometry.get(id)!.path,
      structures: structures
        .filter((s) => s.alignment === id)
        .map(({ name, kind, station }) => ({ name, kind, station })),
    })),
  )
}
