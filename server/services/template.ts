import type { Knex } from 'knex'
import { readCsv } from '#core/files/table'
import { readList } from '#core/plan/lists/define'
import { articleList } from '#core/plan/lists/goods'
import { readTemplate, type ProjectTemplate } from '#core/plan/template'
import { Problem } from '#core/problem'
import { nameKey } from '#core/record/names'
import { uuidv7 } from 'uuidv7'
import { inTransaction } from '../db/connection'
import { articlesOf } from '../db/lists'
import { proceduresOf } from '../db/planning'
import { issuedProcedure, type ProcedureDraft } from '../db/procedures'
import { saveSettings, type Project } from '../db/projects'
import { noteChange } from './changes'
import type { SentFile } from './heavy/table-files'
import { listCsv } from './lists'
import { articles } from './lists/goods'
import { groundOf } from './lists/ground'
import { draftProcedure, readDraft } from './procedures'
import type { Actor } from './record'

/** What this project hands on: issued procedures, points, schools and articles. */
export async function templateOf(db: Knex, project: Project, actor: Actor): Promise<ProjectTemplate> {
  const procedures: string[] = []
  for (const { key, issued } of (await proceduresOf(db, project.id)).values())
    if (issued) procedures.push((await issuedProcedure(db, project.id, key))!.source)
  return {
    format: 'vet-line-template',
    version: 1,
    of: project.name,
    procedures,
    plan: project.settings.plan,
    schools: project.settings.schools,
    articles: await listCsv(db, project, actor, 'articles'),
  }
}

export interface TemplateTaken {
  procedures: number
  articles: number
  /** what was there already, and stays as it is */
  passedOver: number
}

/**
 * Takes a template in: procedures as drafts, which are reviewed and issued here, and articles. What the
 * project has already stays. All of it is read before any of it is kept.
 */
export async function takeTemplate(
  db: Knex,
  project: Project,
  actor: Actor,
  file: SentFile,
): Promise<TemplateTaken> {
  const template = readTemplate(Buffer.from(file.data, 'base64').toString('utf8'))
  const there = await proceduresOf(db, project.id)
  const drafts: ProcedureDraft[] = []
  for (const source of template.procedures) {
    const draft = await readDraft(uuidv7(), source, actor)
    if (!there.has(draft.key)) drafts.push(draft)
  }
  const table = readCsv(Buffer.from(template.articles, 'utf8'))
  const ground = { ...(await groundOf(db, project)), taken: new Set<string>() }
  const { rows, faults } = readList(articleList, table, ground)
  if (faults[0])
    throw new Problem('bad-template', `Row ${faults[0].row} of its articles: ${faults[0].message}`, 'file')
  const known = new Set((await articlesOf(db, project.id)).map((a) => nameKey(a.item)))
  const fresh = rows.filter((r) => !known.has(nameKey(r.item)))
  for (const { id, source } of drafts) await draftProcedure(db, actor, id, source)
  await inTransaction(db, async (trx) => {
    if (fresh.length > 0) await articles.keep(trx, project, actor, fresh, ground)
    const { plan, schools } = project.settings
    // Points and schools that somebody has chosen here are not overruled from elsewhere.
    await saveSettings(trx, project.id, {
      ...project.settings,
      plan: { ...template.plan, ...plan },
      schools: { ...template.schools, ...schools },
    })
    const keys = drafts.map((d) => d.key)
    await noteChange(trx, actor, 'write-procedure', {
      what: 'template',
      of: template.of,
      keys,
      articles: fresh.length,
    })
  })
  const passedOver = template.procedures.length - drafts.length + (rows.length - fresh.length)
  return { procedures: drafts.length, articles: fresh.length, passedOver }
}
