import { nameKey } from '../../core/record/names'
import { readFileSync } from 'node:fs'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { loadProcedure } from '../../core/procedure/load'
import { emptySummary } from '../../core/judgement/projection'
import { appendEntries, sha256, type Actor } from '../../server/services/record'
import type { SubjectType } from '../../core/record/entry'
import { demoPassword, demoPin } from '../../demo/people'
import { hashSecret } from '../../server/services/secrets'

/** Stands in every text of the second project: nobody of the first may ever read it. */
export const MARK = 'GORSE-HILL'
export const secondKey = 'gorse-hill'

const text = (what: string) => `${MARK} ${what}`
const lines = JSON.stringify([])

/**
 * A whole second project with a row in every table and an entry in every chain, laid by the
 * database's owner; its inspector signs in as "gorse".
 *
 * @returns ids by what they are, as routes name them
 */
export async function laySecondProject(db: Knex): Promise<Record<string, string>> {
  const id = Object.fromEntries(
    [
      'project',
      'person',
      'crew',
      'line',
      'order',
      'orderLine',
      'delivery',
      'item',
      'joint',
      'procedure',
      'instrument',
      'calibration',
      'ncr',
      'reach',
      'pack',
      'lot',
      'place',
      'shift',
      'file',
      'sampling',
    ].map((k) => [k, uuidv7()]),
  ) as Record<string, string>
  const at = new Date()
  const { project } = id
  const secret = { password_hash: await hashSecret(demoPassword), pin_hash: await hashSecret(demoPin) }
  await db('people').insert({ id: id.person, sign_in: 'gorse', name: text('person'), ...secret })
  await db('projects').insert({
    id: project,
    project_key: secondKey,
    name: text('project'),
    zone: 'UTC',
    settings: JSON.stringify({ rule: 'guarded', schools: {}, plan: {} }),
  })
  await db('crews').insert({ id: id.crew, project, name: text('crew') })
  for (const role of ['inspector', 'engineer'])
    await db('memberships').insert({ project, person: id.person, role })
  await db('alignments').insert({
    id: id.line,
    project,
    line_key: 'GH',
    name: text('line'),
    material: 'polyethylene',
    from_station: 0,
    to_station: 50,
    profile: JSON.stringify([
      { station: 0, elevation: 5 },
      { station: 50, elevation: 6 },
    ]),
    facts: JSON.stringify({ 'line.designPressure': 10e5 }),
  })
  await db('structures').insert({
    id: uuidv7(),
    project,
    alignment: id.line,
    name: text('valve'),
    kind: 'valve',
    station: 10,
  })
  await db('compaction_curves').insert({
    ...{ id: uuidv7(), project, name: text('curve'), material: text('material'), source: text('pit') },
    ...{ dated: '2026-02-03', points: '[]', specific_gravity: null },
  })
  await db('plants').insert({
    ...{ id: uuidv7(), project, crew: id.crew, name: text('roller'), kind: 'roller' },
  })
  await db('shifts').insert({ id: id.shift, project, crew: id.crew, day: '2026-02-03' })
  await db('qualifications').insert({
    ...{ id: uuidv7(), project, person: id.person, procedure_key: 'gh', since: '2026-02-03', until: null },
    given_by: text('instructor'),
  })
  await db('devices_along').insert({
    ...{ id: uuidv7(), person: id.person, project, client: text('browser') },
    ...{ taken_at: at, heard_at: at },
  })
  await db('webhooks').insert({
    ...{
      id: uuidv7(),
      project,
      address: `http://127.0.0.1:9/${MARK}`,
      place: 1e9,
      next_at: new Date('2099-01-01'),
    },
  })
  await db('calendars').insert({ token: Buffer.alloc(32, 7), project, person: id.person, made_at: at })
  await db('catalogue').insert({
    project,
    item: 'GH-PIPE',
    title: text('article'),
    kind: 'pipe',
    pressure_class: 'x',
    facts: '{}',
  })
  await db('orders').insert({ id: id.order, project, number: text('order'), supplier: text('supplier') })
  await db('order_lines').insert({
    id: id.orderLine,
    order_id: id.order,
    item: 'GH-PIPE',
    pressure_class: 'x',
    quantity: 2,
    lots: '[]',
  })
  await db('deliveries').insert({
    id: id.delivery,
    project,
    order_id: id.order,
    number: text('note'),
    received_at: at,
    lines_json: lines,
    state: 'open',
  })
  await db('places').insert({
    id: id.place,
    project,
    name: text('place'),
    kind: 'plastic pipe',
    every_days: 7,
  })
  await db('items').insert({
    id: id.item,
    project,
    delivery: id.delivery,
    item: 'GH-PIPE',
    kind: 'pipe',
    serial: text('serial'),
    lot: text('lot'),
    length: 6,
    conforms: true,
    state: 'received',
    place: id.place,
  })
  await db('lots').insert({ id: id.lot, project, lot: text('lot'), item: 'GH-PIPE' })
  await db('samplings').insert({
    id: id.sampling,
    project,
    delivery: id.delivery,
    item: 'GH-PIPE',
    lot_size: 2,
    sample: 1,
    acceptance: 0,
    severity: 'normal',
    drawn_at: at,
  })
  await db('instruments').insert({
    id: id.instrument,
    project,
    name: text('gauge'),
    name_key: nameKey(text('gauge')),
    kind: 'pressure gauge',
    quantity: 'pressure',
    range_min: 0,
    range_max: 25e5,
    resolution: 1000,
    uncertainty: 2500,
  })
  await db('calibrations').insert({
    id: id.calibration,
    project,
    instrument: id.instrument,
    from_at: new Date(at.getTime() - 1e9),
    until_at: new Date(at.getTime() + 1e9),
    certificate: text('certificate'),
  })
  const source = readFileSync(
    new URL('../../procedures/pe-electrofusion-socket.yaml', import.meta.url),
    'utf8',
  ).replace(/^title: .*$/m, `title: ${text('procedure')}`)
  const { procedure } = loadProcedure(source)
  await db('procedures').insert({
    id: id.procedure,
    project,
    procedure_key: procedure.key,
    revision: procedure.revision,
    title: procedure.title,
    state: 'issued',
    source,
    sha256: sha256(source),
    system: procedure.system,
    material: procedure.material,
    drafted_by: id.person,
    drafted_at: at,
    issued_by: id.person,
    issued_at: at,
  })
  const summary = JSON.stringify(emptySummary)
  await db('joints').insert({
    id: id.joint,
    project,
    alignment: id.line,
    number: text('joint'),
    station: 12,
    system: procedure.key,
    crew: id.crew,
    procedure_id: id.procedure,
    facts: JSON.stringify(Object.fromEntries(procedure.facts.map((f) => [f.key, f.example ?? null]))),
    opened_at: at,
    summary,
  })
  await db('jobs').insert({
    id: uuidv7(),
    project,
    reason: 'rule',
    scope: JSON.stringify({ all: true }),
    total: 0,
    state: 'done',
    asked_by: id.person,
    asked_at: at,
    finished_at: at,
    error: MARK,
  })
  await db('uses').insert({ joint: id.joint, kind: 'lot', value: text('lot'), project })
  await db('reaches').insert({
    id: id.reach,
    project,
    alignment: id.line,
    crew: id.crew,
    name: text('reach'),
    from_station: 0,
    to_station: 50,
    system: 'embed-flexible',
    procedure_id: id.procedure,
    facts: JSON.stringify({ 'pipe.od': 0.3 }),
    opened_at: at,
  })
  await db('files').insert({
    id: id.file,
    project,
    name: 'x.png',
    mime: 'image/png',
    sha256: sha256(MARK),
    size: MARK.length,
    bytes: Buffer.from(MARK),
    person: id.person,
    received_at: at,
  })
  const design = {
    section: { length: 50, insideDiameter: 0.2, wall: 0.02, modulus: 9e8 },
    outsideDiameter: 0.24,
    rating: 16e5,
    weakest: text('pipe'),
    gaugeElevation: 5,
    testPressure: 12e5,
    required: 10e5,
    methodMaterial: 'polyethylene',
    parameters: { testPressure: 12e5 },
  }
  await db('packs').insert({
    id: id.pack,
    project,
    alignment: id.line,
    number: text('pack'),
    from_station: 0,
    to_station: 50,
    method: 'pe-expansion',
    design: JSON.stringify(design),
    gauge: id.instrument,
    due_at: at,
  })
  await db('samples').insert({ pack: id.pack, at, pressure: 1e5 })
  await db('ncrs').insert({
    id: id.ncr,
    project,
    number: text('ncr'),
    subject_type: 'joint',
    subject: id.joint,
    step: null,
    crew: id.crew,
    place: text('place'),
    criterion: text('criterion'),
    reading: text('reading'),
    state: 'open',
    raised_by: id.person,
    raised_at: at,
  })
  const actor: Actor = {
    person: id.person!,
    name: text('person'),
    project: project!,
    roles: ['inspector', 'engineer'],
    crew: null,
  }
  for (const type of [
    'joint',
    'delivery',
    'item',
    'reach',
    'pack',
    'ncr',
    'procedure',
    'instrument',
    'order',
    'lot',
    'place',
    'shift',
  ] as SubjectType[]) {
    await appendEntries(db, actor, 'inspector', type, id[type]!, [
      {
        id: uuidv7(),
        kind: 'remark',
        step: null,
        payload: { text: text(`remark on ${type}`) },
        recordedAt: at,
      },
    ])
  }
  id.entry = (await db('entries').where({ subject: id.joint }).first('id')).id
  return id
}
