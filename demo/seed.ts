import { nameKey } from '../core/record/names'
import type { Knex } from 'knex'
import { insertInstallation, installationName } from '../server/db/links'
import { findProject } from '../server/db/projects'
import type { Actor } from '../server/services/record'
import { hashSecret } from '../server/services/secrets'
import { crewNames, demoPassword, demoPeople, demoPin } from './people'
import { DAY, type Ground } from './ground'
import { seeded } from './random'
import { layOtherLines, layOtherJoints } from './seed-systems'
import { layProcedures } from './seed-procedures'
import { catalogue } from './goods'
import { layEmbedment } from './seed-embedment'
import { layPacks } from './seed-packs'
import { layPoints, layRules } from './seed-points'
import { layReaches } from './seed-reaches'
import { layShifts } from './seed-shifts'
import { layGoods } from './seed-goods'
import { layRisingMain } from './seed-rising-main'
import { branch, instruments, risingMain, scheme } from './scheme'

const SEED = 20_411

async function layGround(db: Knex, now: number): Promise<Ground> {
  const random = seeded(SEED)
  const id = () => random.id(now - 40 * DAY)
  const project = id()
  await db('projects').insert({
    id: project,
    project_key: scheme.key,
    name: scheme.name,
    zone: scheme.zone,
    settings: JSON.stringify({ rule: 'guarded', schools: {}, plan: {} }),
  })
  const crews = crewNames.map(() => id())
  await db('crews').insert(crewNames.map((name, i) => ({ id: crews[i], project, name })))
  const people: Record<string, Actor> = {}
  const [password, pin] = await Promise.all([hashSecret(demoPassword), hashSecret(demoPin)])
  for (const p of demoPeople) {
    const person = id()
    const crew = p.crew ? crews[crewNames.indexOf(p.crew as (typeof crewNames)[number])]! : null
    await db('people').insert({
      id: person,
      sign_in: p.signIn,
      name: p.name,
      password_hash: password,
      pin_hash: pin,
      // The demo's administrator keeps the installation, unless somebody does already.
      keeper: p.role === 'administrator' && !(await installationName(db)),
    })
    await db('memberships').insert({ project, person, role: p.role, crew })
    people[p.signIn] = { person, name: p.name, project, roles: [p.role], crew }
  }
  if (!(await installationName(db))) await insertInstallation(db, 'Skerry Head demonstration', new Date(now))
  const tools: Record<string, string> = {}
  for (const i of instruments) {
    tools[i.kind] = id()
    await db('instruments').insert({
      id: tools[i.kind],
      project,
      name: i.name,
      name_key: nameKey(i.name),
      kind: i.kind,
      quantity: i.quantity,
      range_min: i.min,
      range_max: i.max,
      resolution: i.resolution,
      uncertainty: i.uncertainty,
    })
    await db('calibrations').insert({
      id: id(),
      project,
      instrument: tools[i.kind],
      from_at: new Date(now + (i.days - 365) * DAY),
      until_at: new Date(now + i.days * DAY),
      certificate: `K-${1000 + i.days}`,
    })
  }
  const lines = { main: id(), branch: id() }
  for (const [key, line] of [
    ['main', risingMain],
    ['branch', branch],
  ] as const) {
    await db('alignments').insert({
      id: lines[key],
      project,
      line_key: line.key,
      name: line.name,
      material: 'polyethylene',
      from_station: line.from,
      to_station: line.to,
      profile: JSON.stringify(line.profile),
      facts: JSON.stringify({ 'line.designPressure': 10e5 }),
    })
  }
  await db('catalogue').insert(
    catalogue.map((c) => ({
      project,
      item: c.item,
      title: c.title,
      kind: c.kind,
      pressure_class: c.pressureClass,
      facts: JSON.stringify(c.facts),
      gtin: c.gtin,
      limits: JSON.stringify(c.limits),
      mass: c.mass,
      shelf_months: c.shelfMonths,
      opened_days: c.openedDays,
    })),
  )
  return {
    db,
    random,
    now,
    project: (await findProject(db, scheme.key))!,
    crews,
    people,
    lines,
    instruments: tools,
    procedures: {},
  }
}

/** Lays out the demo project once. @returns false when it is there already */
export async function seedDemo(db: Knex, now = Date.now()): Promise<boolean> {
  if (await findProject(db, scheme.key)) return false
  await db.transaction(async (trx) => {
    const ground = await layGround(trx, now)
    await layProcedures(ground)
    await layRules(ground)
    const stock = await layGoods(ground)
    await layRisingMain(ground, stock)
    const lines = await layOtherLines(ground)
    await layOtherJoints(ground, lines)
    await layReaches(ground)
    await layEmbedment(ground, lines)
    await layPacks(ground)
    await layPoints(ground)
    await layShifts(ground)
  })
  return true
}
