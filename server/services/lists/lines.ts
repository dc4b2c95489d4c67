import { lineList, profileList, structureList } from '#core/plan/lists/lines'
import { uuidv7 } from 'uuidv7'
import { insertLine, lineGeometry } from '../../db/lines'
import { insertStructures, saveProfile, structuresOf } from '../../db/lists'
import { alignmentsOf } from '../../db/projects'
import { noteChange } from '../changes'
import { nameOf, type Keeper, type RowsOf } from './keeper'

export const lines: Keeper<RowsOf<typeof lineList>> = {
  list: lineList,
  cells: async (db, project) =>
    (await alignmentsOf(db, project.id)).map((l) => {
      const pressure = l.facts['line.designPressure']
      return {
        key: l.key,
        name: l.name,
        material: l.material,
        from: `${l.from} m`,
        to: `${l.to} m`,
        designPressure: typeof pressure === 'number' ? `${pressure} Pa` : null,
      }
    }),
  async keep(trx, project, actor, rows) {
    for (const { designPressure, ...row } of rows) {
      const id = uuidv7()
      const facts: Record<string, number> = {}
      if (designPressure !== null) facts['line.designPressure'] = designPressure
      await insertLine(trx, project.id, { ...row, id, facts, profile: [], ground: [], path: [] })
      const { key, name, from, to } = row
      await noteChange(trx, actor, 'plan-work', { what: 'line', line: id, key, name, from, to })
    }
    return []
  },
}

export const profiles: Keeper<RowsOf<typeof profileList>> = {
  list: profileList,
  async cells(db, project) {
    const lines = await alignmentsOf(db, project.id)
    const geometry = await lineGeometry(db, project.id)
    return lines.flatMap((l) => {
      const { profile, ground } = geometry.get(l.id)!
      const invert = new Map(profile.map((p) => [p.station, p.elevation]))
      const over = new Map(ground.map((p) => [p.station, p.elevation]))
      return [...new Set([...invert.keys(), ...over.keys()])]
        .sort((a, b) => a - b)
        .map((station) => ({
          line: l.key,
          station: `${station} m`,
          invert: invert.has(station) ? `${invert.get(station)} m` : null,
          ground: over.has(station) ? `${over.get(station)} m` : null,
        }))
    })
  },
  async keep(trx, _project, actor, rows, { lineIds }) {
    for (const key of new Set(rows.map((r) => r.line.key))) {
      const own = rows.filter((r) => r.line.key === key)
      const points = (column: 'invert' | 'ground') => {
        const list = own.filter((r) => r[column] !== null)
        return list.length === 0
          ? null
          : JSON.stringify(list.map((r) => ({ station: r.station, elevation: r[column]! })))
      }
      const id = lineIds.get(key)!
      await saveProfile(trx, id, { profile: points('invert'), ground: points('ground') })
      await noteChange(trx, actor, 'plan-work', { what: 'profile', line: id, key, points: own.length })
    }
    return []
  },
}

export const structures: Keeper<RowsOf<typeof structureList>> = {
  list: structureList,
  planned: 'structures',
  async cells(db, project, { lineIds }) {
    const lineKey = nameOf(lineIds)
    return (await structuresOf(db, project.id)).map((s) => ({
      line: lineKey(s.alignment),
      name: s.name,
      kind: s.kind,
      station: `${s.station} m`,
      angle: s.angle === null ? null : `${s.angle} deg`,
    }))
  },
  async keep(trx, project, actor, rows, { lineIds }) {
    await insertStructures(
      trx,
      project.id,
      rows.map(({ line, ...row }) => ({ ...row, id: uuidv7(), alignment: lineIds.get(line.key)! })),
    )
    await noteChange(trx, actor, 'plan-work', { what: 'structures', names: rows.map((r) => r.name) })
    return []
  },
}
