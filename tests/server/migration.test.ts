import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { canonicalEntry, CHAIN_START } from '../../core/record/chain'
import { ensureDatabase, ownerConnection, stopDatabase } from '../../cli/mariadb'
import { placesAt, type Places } from '../../cli/places'
import { timeKeptSince } from '../../server/db/checks'
import { migrate } from '../../server/db/migrate'
import { findProject } from '../../server/db/projects'
import { findReach, type Reach } from '../../server/db/reaches'
import { sha256 } from '../../server/services/record'
import { verifyRecord } from '../../server/services/verify'

/** A database as it stood before reaches had procedures, brought up to date. */
let places: Places
let db: Knex
const folder = mkdtempSync(join(tmpdir(), 'vet-line-older-'))
const id = { project: uuidv7(), line: uuidv7(), crew: uuidv7(), person: uuidv7() }
const reaches = { whole: uuidv7(), thick: uuidv7(), empty: uuidv7(), own: uuidv7() }
const at = '2026-03-09T08:00:00.000Z'
const criteria = {
  maxLift: 0.3,
  minPasses: 3,
  maxDifference: 0.15,
  minCompaction: 0.9,
  compactionUncertainty: 0.005,
  coverByHand: 0.3,
  liftsPerTest: 2,
}

async function addReach(owner: Knex, reach: string, name: string, own: object = criteria) {
  await owner('reaches').insert({
    id: reach,
    project: id.project,
    alignment: id.line,
    crew: id.crew,
    name,
    from_station: 0,
    to_station: 50,
    pipe_od: 0.315,
    criteria: JSON.stringify(own),
    state: 'in-work',
    left_level: 0.15,
    right_level: 0.15,
  })
}

async function record(owner: Knex, subject: string, list: [kind: string, payload: object][]) {
  let prev = CHAIN_START
  for (const [i, [kind, payload]] of list.entries()) {
    const row = {
      id: uuidv7(),
      project: id.project,
      subjectType: 'reach' as const,
      subject,
      seq: i + 1,
      kind,
      step: null,
      payload: JSON.stringify(payload),
      instrument: null,
      person: id.person,
      role: 'inspector' as const,
      crew: null,
      device: null,
      deviceNumber: null,
      stampAt: null,
      late: null,
      recordedAt: new Date(Date.parse(at) + i * 60_000).toISOString(),
      receivedAt: new Date(Date.parse(at) + i * 60_000).toISOString(),
      prev,
    }
    prev = sha256(canonicalEntry(row))
    const { subjectType, deviceNumber, stampAt, recordedAt, receivedAt, ...rest } = row
    await owner('entries').insert({
      ...rest,
      subject_type: subjectType,
      device_number: deviceNumber,
      stamp_at: stampAt,
      recorded_at: new Date(recordedAt),
      received_at: new Date(receivedAt),
      hash: prev,
    })
  }
}

const lift = (side: string, thickness: number, more: object = {}): [string, object] => [
  'lift',
  { side, thickness, passes: 4, material: 'sand', haunched: true, ...more },
]
const density = (wetDensity: number): [string, object] => [
  'density',
  { side: 'both', wetDensity, moisture: 0.08, maximum: 1900 },
]

/** How what ran was kept before the migrator was Knex's own. */
const LONG_AGO = new Date('2026-01-05T10:00:00.000Z')
async function asBefore(owner: Knex) {
  const names = (await owner('migrations').orderBy('id').pluck('name')) as string[]
  await owner.raw('DROP TABLE migrations, migrations_lock')
  await owner.raw('CREATE TABLE migrations (name VARCHAR(120) PRIMARY KEY, ran_at DATETIME(3) NOT NULL)')
  await owner('migrations').insert(names.map((name) => ({ name, ran_at: LONG_AGO })))
}

beforeAll(async () => {
  places = placesAt(folder)
  const settings = await ensureDatabase(places)
  let owner = ownerConnection(settings)
  await owner.raw('DROP DATABASE vet_line')
  await owner.raw('CREATE DATABASE vet_line')
  await owner.destroy()
  owner = ownerConnection(settings)
  await migrate(owner, 'vet_line', '005-trust')
  await owner('people').insert({ id: id.person, sign_in: 'ann', name: 'Ann', password_hash: 'x' })
  await owner('projects').insert({
    id: id.project,
    project_key: 'older',
    name: 'Older',
    zone: 'Europe/London',
    settings: JSON.stringify({ rule: 'guarded', schools: {}, plan: {} }),
  })
  await owner('crews').insert({ id: id.crew, project: id.project, name: 'North' })
  await owner('alignments').insert({
    id: id.line,
    project: id.project,
    line_key: 'main',
    name: 'Main',
    material: 'PE',
    from_station: 0,
    to_station: 100,
    profile: '[]',
    facts: '{}',
  })
  await addReach(owner, reaches.whole, 'Whole')
  await addReach(owner, reaches.thick, 'Thick')
  await addReach(owner, reaches.empty, 'Empty')
  await addReach(owner, reaches.own, 'Own limits', { ...criteria, maxLift: 0.5, coverByHand: 0.1 })
  await record(owner, reaches.whole, [
    lift('left', 0.15),
    lift('right', 0.15),
    lift('both', 0.25),
    density(1950),
    lift('both', 0.25),
    density(1960),
  ])
  await record(owner, reaches.thick, [lift('both', 0.4)])
  await record(owner, reaches.own, [lift('both', 0.42), density(1950)])
  await asBefore(owner)
  await migrate(owner, 'vet_line')
  db = owner
}, 60_000)
afterAll(async () => {
  await db.destroy()
  await stopDatabase(places)
  rmSync(folder, { recursive: true, force: true })
})

const found = async (key: keyof typeof reaches): Promise<Reach> =>
  (await findReach(db, id.project, reaches[key]))!

describe('a reach recorded before reaches had procedures', () => {
  it.each<[keyof typeof reaches, string, number]>([
    ['whole', 'accepted', 0.65],
    ['thick', 'rejected', 0.4],
    ['empty', 'not-started', 0],
    ['own', 'accepted', 0.42],
  ])('%s is %s, filled to %f m as it was booked', async (key, state, level) => {
    const { state: is, summary } = await found(key)
    expect(is).toBe(state)
    expect(summary.figures.left).toBeCloseTo(level, 9)
    expect(summary.figures.right).toBeCloseTo(level, 9)
  })
  it('pins its criteria; equal ones are one revision', async () => {
    const [whole, thick, own] = [await found('whole'), await found('thick'), await found('own')]
    expect(whole.procedure).toBe(thick.procedure)
    expect(own.procedure).not.toBe(whole.procedure)
    expect(whole.facts).toEqual({ 'pipe.od': 0.315 })
    const rows = await db('procedures').select('procedure_key', 'revision', 'state').orderBy('revision')
    expect(rows).toEqual([
      { procedure_key: 'embed-as-recorded', revision: '1', state: 'superseded' },
      { procedure_key: 'embed-as-recorded', revision: '2', state: 'superseded' },
    ])
  })
  it('is verified as it stands, and a changed limit is seen', async () => {
    const project = (await findProject(db, 'older'))!
    expect(await verifyRecord(db, [project])).toMatchObject({ faults: [], stale: [] })
    await db('procedures').where({ revision: '2' }).update({ source: 'key: other' })
    expect((await verifyRecord(db, [project])).stale).toContainEqual(
      expect.objectContaining({ subjectType: 'procedure', field: 'state' }),
    )
  })
})

describe('what has run', () => {
  const ran = async () =>
    (await db('migrations').orderBy('id').select('name', 'migration_time')) as {
      name: string
      migration_time: Date
    }[]
  it('is known from before, each once and in its order', async () => {
    const names = (await ran()).map((m) => m.name)
    expect(names).toEqual([...new Set(names)].sort())
    expect(names.slice(0, 5).at(-1)).toBe('005-trust')
    expect((await ran()).filter((m) => m.migration_time.getTime() === LONG_AGO.getTime())).toHaveLength(5)
    expect(await timeKeptSince(db)).toEqual(LONG_AGO)
  })
  it('does not run again', async () => {
    const before = await ran()
    expect(await migrate(db, 'vet_line')).toEqual([])
    expect(await ran()).toEqual(before)
  })
  it('that was killed has left a lock, which keeps nobody out', async () => {
    await db('migrations_lock').update({ is_locked: 1 })
    expect(await migrate(db, 'vet_line')).toEqual([])
    expect((await db('migrations_lock').first('is_locked')).is_locked).toBe(0)
  })
})
