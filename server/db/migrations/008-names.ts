import type { Knex } from 'knex'
import { nameKey } from '#core/record/names'

/** An instrument is known by one spelling of its name: `ce-8` is `CE-8`. */
async function instruments(db: Knex) {
  await db.raw(`ALTER TABLE instruments
    ADD COLUMN name_key VARCHAR(140) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL DEFAULT '' AFTER name`)
  const rows = (await db('instruments').select('id', 'project', 'name').orderBy('id')) as {
    id: string
    project: string
    name: string
  }[]
  const taken = new Map<string, number>()
  for (const { id, project, name } of rows) {
    const key = nameKey(name)
    const before = taken.get(`${project} ${key}`) ?? 0
    taken.set(`${project} ${key}`, before + 1)
    // Two that were told apart by their spelling alone stay two.
    await db('instruments')
      .where({ id })
      .update({ name_key: before === 0 ? key : `${key} #${before + 1}` })
  }
  await db.raw(`ALTER TABLE instruments ALTER name_key DROP DEFAULT, ADD UNIQUE (project, name_key)`)
}

/** A pipe has one end for a joint upstream and one downstream; a fitting is built in once. */
async function builtIn(db: Knex) {
  for (const place of ['upstream', 'downstream', 'fitting'])
    await db.raw(`ALTER TABLE joints ADD UNIQUE KEY one_${place} (${place})`)
}

export async function up(db: Knex): Promise<void> {
  await instruments(db)
  await builtIn(db)
}
