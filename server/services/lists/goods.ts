import { articleList, instrumentList, writeFacts } from '#core/plan/lists/goods'
import { dimensions, type DimensionKey } from '#core/quantity/dimension'
import { readQuantity } from '#core/quantity/read'
import { uuidv7 } from 'uuidv7'
import { insertCalibration, insertInstrument, instrumentsOf } from '../../db/instruments'
import { articlesOf, insertArticles } from '../../db/lists'
import { noteChange } from '../changes'
import { calibrationSpan } from '../instruments'
import { actingRole, appendEntries } from '../record'
import type { Keeper, RowsOf } from './keeper'

export const articles: Keeper<RowsOf<typeof articleList>> = {
  list: articleList,
  cells: async (db, project, { facts }) =>
    (await articlesOf(db, project.id)).map((a) => ({
      ...a,
      facts: writeFacts(a.facts, facts),
      mass: a.mass === null ? null : `${a.mass} kg`,
      limits: a.limits.length === 0 ? null : JSON.stringify(a.limits),
    })),
  async keep(trx, project, actor, rows) {
    await insertArticles(
      trx,
      project.id,
      rows.map((r) => ({ ...r, facts: r.facts ?? {}, limits: r.limits ?? [] })),
    )
    await noteChange(trx, actor, 'plan-work', { what: 'articles', items: rows.map((r) => r.item) })
    return []
  },
}

export const instruments: Keeper<RowsOf<typeof instrumentList>> = {
  list: instrumentList,
  async cells(db, project) {
    return (await instrumentsOf(db, project.id)).map((i) => {
      const unit = dimensions[i.quantity as DimensionKey].unit
      const last = i.calibrations.at(-1)
      return {
        name: i.name,
        kind: i.kind,
        quantity: i.quantity,
        min: `${i.min} ${unit}`,
        max: `${i.max} ${unit}`,
        resolution: `${i.resolution} ${unit}`,
        uncertainty: `${i.uncertainty} ${unit}`,
        calibratedFrom: last?.from.slice(0, 10) ?? null,
        calibratedUntil: last?.until.slice(0, 10) ?? null,
        certificate: last?.certificate ?? null,
      }
    })
  },
  async keep(trx, project, actor, rows) {
    const role = actingRole(actor, 'keep-instruments')
    for (const { calibratedFrom, calibratedUntil, certificate, ...row } of rows) {
      const id = uuidv7()
      const read = (field: 'min' | 'max' | 'resolution' | 'uncertainty') =>
        readQuantity(row[field], row.quantity, { field })
      await insertInstrument(trx, project.id, {
        id,
        name: row.name,
        kind: row.kind,
        quantity: row.quantity,
        min: read('min'),
        max: read('max'),
        resolution: read('resolution'),
        uncertainty: read('uncertainty'),
      })
      const entry = (kind: 'register' | 'calibration', payload: object) => ({
        id: uuidv7(),
        kind,
        payload: { ...payload },
        recordedAt: new Date(),
      })
      const entries = [entry('register', { id, ...row })]
      if (calibratedFrom && calibratedUntil) {
        const typed = { from: calibratedFrom, until: calibratedUntil, certificate: certificate ?? '' }
        await insertCalibration(trx, project.id, {
          id: uuidv7(),
          instrument: id,
          ...calibrationSpan(typed),
          certificate,
        })
        entries.push(entry('calibration', typed))
      }
      await appendEntries(trx, actor, role, 'instrument', id, entries)
    }
    return []
  },
}
