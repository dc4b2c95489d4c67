import type { Knex } from 'knex'
import { createHash } from 'node:crypto'
import { uuidv7 } from 'uuidv7'
import { AS_RECORDED, asRecorded, type EarlierCriteria } from '#core/embedment/as-recorded'
import { projectSubject } from '#core/judgement/projection'
import { loadProcedure } from '#core/procedure/load'
import { entriesOf, forCore } from '../entries'
import { saveProjection } from '../projection'

/** A reach is a subject like a joint: it pins a procedure, has facts, and is projected alike. */
async function columns(db: Knex) {
  await db.raw(`ALTER TABLE reaches
    ADD COLUMN system VARCHAR(60) NOT NULL DEFAULT '${AS_RECORDED}' AFTER to_station,
    ADD COLUMN procedure_id UUID NULL REFERENCES procedures(id) AFTER system,
    ADD COLUMN facts LONGTEXT NOT NULL DEFAULT '{}' CHECK (JSON_VALID(facts)) AFTER procedure_id,
    ADD COLUMN opened_at DATETIME(3) NULL AFTER facts,
    ADD COLUMN until_at DATETIME(3) NULL, ADD COLUMN then_state VARCHAR(16) NULL,
    ADD COLUMN testable_at DATETIME(3) NULL, ADD COLUMN held_since DATETIME(3) NULL,
    ADD COLUMN drafts INT UNSIGNED NOT NULL DEFAULT 0, ADD COLUMN done INT UNSIGNED NOT NULL DEFAULT 0,
    ADD COLUMN applicable INT UNSIGNED NOT NULL DEFAULT 0,
    ADD COLUMN summary LONGTEXT NOT NULL DEFAULT '{}' CHECK (JSON_VALID(summary))`)
}

interface Earlier {
  id: string
  project: string
  pipe_od: number
  criteria: string
}

/** The procedure of a project that says what its criteria said; one revision for each set of them. */
async function pin(db: Knex, project: string, criteria: string, known: Map<string, string>) {
  const key = `${project} ${criteria}`
  const before = known.get(key)
  if (before) return before
  const revision = String([...known.keys()].filter((k) => k.startsWith(project)).length + 1)
  const source = asRecorded(JSON.parse(criteria) as EarlierCriteria, revision)
  const id = uuidv7()
  await db('procedures').insert({
    id,
    project,
    procedure_key: AS_RECORDED,
    revision,
    title: 'Embedment as first recorded',
    state: 'superseded',
    source,
    sha256: createHash('sha256').update(source).digest('hex'),
  })
  known.set(key, id)
  return id
}

/** Reaches recorded before pin their criteria as a procedure, and are judged anew by it. */
async function reaches(db: Knex) {
  const rows = (await db('reaches').select('id', 'project', 'pipe_od', 'criteria')) as Earlier[]
  const zones = new Map(
    (
      (await db('projects').select('id', 'zone', 'settings')) as {
        id: string
        zone: string
        settings: string
      }[]
    ).map((p) => [p.id, { zone: p.zone, rule: (JSON.parse(p.settings) as { rule?: 'guarded' }).rule }]),
  )
  const known = new Map<string, string>()
  for (const row of rows) {
    const procedure = await pin(db, row.project, row.criteria, known)
    const facts = { 'pipe.od': row.pipe_od }
    const entries = await entriesOf(db, row.id)
    const at = entries.length > 0 ? Date.parse(entries.at(-1)!.receivedAt) : Date.now()
    await db('reaches')
      .where({ id: row.id })
      .update({ procedure_id: procedure, facts: JSON.stringify(facts), opened_at: new Date(at) })
    const { source } = (await db('procedures').where({ id: procedure }).first('source')) as { source: string }
    const projection = projectSubject(
      loadProcedure(source),
      facts,
      entries.map(forCore),
      at,
      zones.get(row.project)!,
    )
    await saveProjection(db, 'reaches', row.id, projection)
  }
}

export async function up(db: Knex): Promise<void> {
  await columns(db)
  await reaches(db)
  await db.raw(`ALTER TABLE reaches DROP COLUMN pipe_od, DROP COLUMN criteria, DROP COLUMN left_level,
    DROP COLUMN right_level`)
}
