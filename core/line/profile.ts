import type { Table } from '../files/table'
import { Problem } from '../problem'
import type { ProfilePoint } from '../pressure/pack'
import { readQuantity } from '../quantity/read'

export interface Profile {
  /** invert along the line, m */
  profile: ProfilePoint[]
  /** ground along the line, m; empty where the file has none */
  ground: ProfilePoint[]
}

const headings: Record<'station' | 'ground' | 'invert', RegExp> = {
  station: /^(station|chainage|distance|sta\.?)$/i,
  ground: /^(ground|surface|cover)( level| elevation)?$/i,
  invert: /^(invert|elevation|level|pipe)( level| elevation)?$/i,
}

/**
 * Reads the profile of a line: one row a station, with the invert and, where it is known, the ground.
 *
 * @param unit what bare numbers are in; metres when left out
 * @returns points in the direction of the line
 * @throws Problem `bad-file` (no such columns) or `bad-rows` (details: `rows`, each with row, column, message)
 */
export function readProfile(table: Table, unit = 'm'): Profile {
  const column = (key: keyof typeof headings) => table.header.findIndex((h) => headings[key].test(h.trim()))
  const [station, ground, invert] = [column('station'), column('ground'), column('invert')]
  if (station < 0 || invert < 0)
    throw new Problem(
      'bad-file',
      'A profile has a column "station" and a column "invert" or "elevation".',
      'file',
    )
  const rows: { row: number; column: string; message: string }[] = [...table.faults]
  const out: Profile = { profile: [], ground: [] }
  let last = -Infinity
  for (const { row, cells } of table.rows) {
    const read = (at: number, name: string): number | null => {
      try {
        return readQuantity(cells[at] ?? '', 'length', { field: name, bareUnit: unit })
      } catch (error) {
        if (error instanceof Problem) rows.push({ row, column: name, message: error.message })
        else throw error
        return null
      }
    }
    const at = read(station, 'station')
    const level = read(invert, 'invert')
    const surface = ground >= 0 && (cells[ground] ?? '') !== '' ? read(ground, 'ground') : null
    if (at === null || level === null) continue
    if (at <= last)
      rows.push({
        row,
        column: 'station',
        message: `${at} m does not lie after ${last} m, the station before`,
      })
    last = at
    out.profile.push({ station: at, elevation: level })
    if (surface !== null) {
      if (surface < level)
        rows.push({
          row,
          column: 'ground',
          message: `the ground, ${surface} m, lies below the invert, ${level} m`,
        })
      out.ground.push({ station: at, elevation: surface })
    }
  }
  if (rows.length > 0)
    throw new Problem('bad-rows', `${rows.length} rows cannot be taken as they are.`, 'file', {
      rows: rows.slice(0, 200),
    })
  if (out.profile.length < 2) throw new Problem('bad-file', 'A profile has at least two stations.', 'file')
  return out
}
