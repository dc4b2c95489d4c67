import { articleList, instrumentList, writeFacts } from '#core/plan/lists/goods'
import { dimensions, type DimensionKey } from '#core/quantity/dimension'
import { readQuantity } from '#core/quantity/read'
import { nameKey } from '#core/record/names'
import { uuidv7 } from 'uuidv7'
import { insertInstrument, instrumentsOf, jointsReadWith } from '../../db/instruments'
import { articlesOf, insertArticles, saveArticle } from '../../db/lists'
import { noteChange } from '../changes'
import { keepCalibration } from '../instruments'
import { askRejudge } from '../jobs'
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
  async correct(trx, project, actor, row, reason) {
    const before = (await articlesOf(trx, project.id)).find((a) => nameKey(a.item) === nameKey(row.item))!
    // What a form does not ask for stays as it is.
    const after = { ...row, item: before.item, facts: row.facts ?? {}, limits: row.limits ?? before.limits }
    await saveArticle(trx, project.id, after)
    await noteChange(trx, actor, 'plan-work', { what: 'article', item: before.item, before, after, reason })
  },
}

export const instruments: Keeper<RowsOf<typeof instrumentList>> = {
  list: instrumentList,
  async cells(db, project) {
    return (await instrumentsOf(db, project.id)).flatMap((i) => {
      const unit = dimensions[i.quantity as DimensionKey].unit
      const instrument = {
        ...{ name: i.name, kind: i.kind, quantity: i.quantity },
        ...{ min: `${i.min} ${unit}`, max: `${i.max} ${unit}` },
        ...{ resolution: `${i.resolution} ${unit}`, uncertainty: `${i.uncertainty} ${unit}` },
      }
      // One that was never calibrated is a row too.
      const calibrations = i.calibrations.length > 0 ? i.calibrations : [null]
      return calibrations.map((c) => ({
        ...instrument,
        calibratedFrom: c && c.from.slice(0, 10),
        calibratedUntil: c && c.until.slice(0, 10),
        certificate: c && c.certificate,
      }))
    })
  },
  async keep(trx, project, actor, rows) {
    const role = actingRole(actor, 'keep-instruments')
    const ids = new Map((await instrumentsOf(trx, project.id)).map((i) => [nameKey(i.name), i.id]))
    const calibrated = new Set<string>()
    for (const { calibratedFrom, calibratedUntil, certificate, ...row } of rows) {
      const known = ids.get(nameKey(row.name))
      const id = known ?? uuidv7()
      if (known === undefined) {
        ids.set(nameKey(row.name), id)
        const read = (field: 'min' | 'max' | 'resolution' | 'uncertainty') =>
          readQuantity(row[field], row.quantity, { field })
        await insertInstrument(trx, project.id, {
          ...{ id, name: row.name, kind: row.kind, quantity: row.quantity },
          ...{ min: read('min'), max: read('max') },
          ...{ resolution: read('resolution'), uncertainty: read('uncertainty') },
        })
        await appendEntries(trx, actor, role, 'instrument', id, [
          { id: uuidv7(), kind: 'register', payload: { id, ...row }, recordedAt: new Date() },
        ])
      } else calibrated.add(id)
      if (calibratedFrom && calibratedUntil)
        await keepCalibration(trx, project, actor, id, {
          ...{ from: calibratedFrom, until: calibratedUntil, certificate: certificate ?? '' },
        })
    }
    // A calibration may lie back: what was read with the instrument is judged anew.
    const joints = await Promise.all([...calibrated].map((id) => jointsReadWith(trx, project.id, id)))
    if (joints.flat().length > 0)
      await askRejudge(trx, project, actor, 'calibration', { joints: [...new Set(joints.flat())] })
    return []
  },
}
