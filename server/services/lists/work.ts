import { writeFacts } from '#core/plan/lists/goods'
import { packDesign, packList, packParameters } from '#core/plan/lists/packs'
import { jointList, readFactPairs, reachList } from '#core/plan/lists/work'
import { elevationAt } from '#core/pressure/pack'
import { uuidv7 } from 'uuidv7'
import { instrumentsOf } from '../../db/instruments'
import { listedJoints } from '../../db/lists'
import { insertJoints } from '../../db/planning'
import { alignmentsOf } from '../../db/projects'
import { reachesOf } from '../../db/reaches'
import { insertPack, packsOf } from '../../db/packs'
import { refreshAfterTest } from '../after-test'
import { noteChange } from '../changes'
import { actingRole } from '../record'
import { layReaches } from '../reaches'
import { nameOf, type Keeper, type RowsOf } from './keeper'

export const joints: Keeper<RowsOf<typeof jointList>> = {
  list: jointList,
  planned: 'joints',
  async cells(db, project, { lineIds, crewIds }) {
    const [lineKey, crewName] = [nameOf(lineIds), nameOf(crewIds)]
    return (await listedJoints(db, project.id)).map((j) => ({
      line: lineKey(j.alignment),
      number: j.number,
      station: `${j.station} m`,
      system: j.system,
      crew: crewName(j.crew),
    }))
  },
  async keep(trx, project, actor, rows, { lineIds, crewIds }) {
    await insertJoints(
      trx,
      project.id,
      rows.map(({ line, crew, ...row }) => ({
        ...row,
        id: uuidv7(),
        alignment: lineIds.get(line.key)!,
        crew: crewIds.get(crew)!,
      })),
    )
    const [first, last] = [rows[0]!.number, rows.at(-1)!.number]
    await noteChange(trx, actor, 'plan-work', { what: 'joints', count: rows.length, first, last, by: 'list' })
    return []
  },
}

export const reaches: Keeper<RowsOf<typeof reachList>> = {
  list: reachList,
  planned: 'reaches',
  async cells(db, project, { lineIds, crewIds, facts }) {
    const [lineKey, crewName] = [nameOf(lineIds), nameOf(crewIds)]
    return (await reachesOf(db, project.id)).map((r) => ({
      line: lineKey(r.alignment),
      name: r.name,
      from: `${r.from} m`,
      to: `${r.to} m`,
      system: r.system,
      crew: crewName(r.crew),
      facts: writeFacts(r.facts, facts),
    }))
  },
  async keep(trx, project, actor, rows, { lineIds, crewIds, systems, issuedIds }) {
    for (const row of rows)
      await layReaches(trx, project, actor, {
        line: lineIds.get(row.line.key)!,
        crew: crewIds.get(row.crew)!,
        procedure: issuedIds.get(row.system)!,
        system: row.system,
        facts: readFactPairs(systems.get(row.system)!.issued!, row.facts ?? {}),
        spans: [{ name: row.name, from: row.from, to: row.to }],
      })
    return []
  },
}

export const packs: Keeper<RowsOf<typeof packList>> = {
  list: packList,
  planned: 'packs',
  async cells(db, project, { lineIds, instrumentIds }) {
    const [lineKey, toolName] = [nameOf(lineIds), nameOf(instrumentIds)]
    const profiles = new Map((await alignmentsOf(db, project.id)).map((l) => [l.id, l.profile]))
    return (await packsOf(db, project.id)).map((p) => {
      const { section, parameters, ...design } = p.design
      const { gaugeUncertainty: _of, testPressure: _pressure, pipes: _pipes, ...rest } = parameters
      const at = profiles
        .get(p.alignment)
        ?.find((point) => Math.abs(point.elevation - design.gaugeElevation) < 1e-9)?.station
      return {
        line: lineKey(p.alignment),
        number: p.number,
        from: `${p.from} m`,
        to: `${p.to} m`,
        method: p.method,
        outsideDiameter: `${design.outsideDiameter} m`,
        wall: `${section.wall} m`,
        insideDiameter: `${section.insideDiameter} m`,
        modulus: section.modulus ? `${section.modulus} Pa` : null,
        testPressure: design.testPressure ? `${design.testPressure} Pa` : null,
        required: design.required ? `${design.required} Pa` : null,
        rating: design.rating ? `${design.rating} Pa` : null,
        weakest: design.weakest || null,
        gauge: toolName(p.gauge),
        gaugeStation: `${at ?? p.from} m`,
        due: p.dueAt?.slice(0, 10) ?? null,
        parameters: Object.entries(rest)
          .map(([key, value]) => `${key}=${String(value)}`)
          .join('; '),
        methodReason: design.methodReason ?? null,
      }
    })
  },
  async keep(trx, project, actor, rows, { lineIds, instrumentIds }) {
    const lines = new Map((await alignmentsOf(trx, project.id)).map((l) => [l.id, l]))
    const tools = new Map((await instrumentsOf(trx, project.id)).map((i) => [i.id, i]))
    if (rows.some((r) => r.methodReason !== null)) actingRole(actor, 'start-unready-test')
    for (const row of rows) {
      const line = lines.get(lineIds.get(row.line.key)!)!
      const gauge = instrumentIds.get(row.gauge.name)!
      await insertPack(trx, project.id, {
        id: uuidv7(),
        alignment: line.id,
        number: row.number,
        from: row.from,
        to: row.to,
        method: row.method.key,
        gauge,
        dueAt: row.due ? new Date(`${row.due}T12:00:00Z`) : null,
        design: {
          ...packDesign(row, (station) => elevationAt(line.profile, station)),
          parameters: {
            ...packParameters(row),
            gaugeUncertainty: tools.get(gauge)!.uncertainty,
          },
        },
      })
      const { number, from, to } = row
      await noteChange(trx, actor, 'plan-work', { what: 'pack', number, from, to, method: row.method.key })
      await refreshAfterTest(trx, project, { alignment: line.id, from, to })
    }
    return []
  },
}
