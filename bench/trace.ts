import { uuidv7 } from 'uuidv7'
import { applicationEnvironment } from '../cli/places'
import { connect, databaseSettings } from '../server/db/connection'
import { findProject } from '../server/db/projects'
import type { Actor } from '../server/services/record'
import { touched, trace } from '../server/services/tracing'
import { startSite } from '../tests/site'
import { asOwner, settingsOf } from '../tests/server/connect'

/**
 * One lot in 20,000 joints: the joints, reaches and test packs that it touches, and the
 * whole trace as the view asks it, as ratios to the one SQL query that a trace needs.
 */
const JOINTS = 20_000
const ROUNDS = 9
const site = startSite(4530)
try {
  const owner = asOwner(site.data)
  const project = (await findProject(owner, 'skerry-head'))!
  const [line] = await owner('alignments').where({ project: project.id, line_key: 'RM' })
  const [crew] = await owner('crews').where({ project: project.id })
  const [person] = await owner('people').where({ sign_in: 'ines' })
  await owner('lots').insert({ id: uuidv7(), project: project.id, lot: 'BENCH', item: 'PE-315-11' })
  for (let i = 0; i < JOINTS; i += 500) {
    const ids = Array.from({ length: 500 }, () => uuidv7())
    await owner('joints').insert(
      ids.map((id, k) => ({
        id,
        project: project.id,
        alignment: line.id,
        number: `X-${i + k}`,
        station: ((i + k) / JOINTS) * line.to_station,
        system: 'pe-electrofusion-socket',
        crew: crew.id,
        facts: '{}',
        summary: '{"next":null,"nextTitle":null,"clocks":[],"holds":[],"drafts":[]}',
      })),
    )
    await owner('uses').insert(
      ids.map((id) => ({ joint: id, project: project.id, kind: 'lot', value: 'BENCH' })),
    )
  }
  await owner.raw('ANALYZE TABLE uses, joints, items')
  const db = connect(
    databaseSettings({
      ...process.env,
      ...applicationEnvironment(settingsOf(site.data)),
    } as NodeJS.ProcessEnv),
    8,
  )
  const actor: Actor = {
    person: person.id,
    name: person.name,
    project: project.id,
    roles: ['inspector'],
    crew: null,
  }
  const origin = { kind: 'lot' as const, value: 'BENCH', since: null }
  const sql = () =>
    db.raw(
      'SELECT j.id, j.number, j.station, j.alignment, j.crew, j.system, j.state FROM uses u ' +
        "JOIN joints j ON j.id = u.joint WHERE u.project = ? AND u.kind = 'lot' AND u.value = " +
        "'BENCH' ORDER BY j.alignment, j.station",
      [project.id],
    )
  const best = async (act: () => Promise<unknown>) => {
    const times: number[] = []
    for (let i = 0; i < ROUNDS; i++) {
      const start = performance.now()
      await act()
      times.push(performance.now() - start)
    }
    return times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]!
  }
  const plain = await best(sql)
  const touching = await best(() => touched(db, project.id, origin))
  const whole = await best(() => trace(db, actor, origin))
  const { total } = await trace(db, actor, origin)
  if (total !== JOINTS) throw new Error(`The trace found ${total} joints.`)
  await Promise.all([db.destroy(), owner.destroy()])
  console.log(`one SQL query, ${JOINTS} joints   ${plain.toFixed(0).padStart(6)} ms`)
  console.log(
    `joints, reaches and packs      ${touching.toFixed(0).padStart(6)} ms, ratio ${(touching / plain).toFixed(2)}`,
  )
  console.log(
    `the whole trace                ${whole.toFixed(0).padStart(6)} ms, ratio ${(whole / plain).toFixed(2)}`,
  )
} finally {
  site.stop()
}
