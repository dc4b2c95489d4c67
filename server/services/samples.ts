import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Knex } from 'knex'
import { parse } from 'yaml'
import { Problem } from '#core/problem'
import { uuidv7 } from 'uuidv7'
import { proceduresOf } from '../db/planning'
import type { Project } from '../db/projects'
import { draftProcedure } from './procedures'
import type { Actor } from './record'

/** Procedures that ship as samples of ordinary practice: adopted as drafts, then reviewed and issued. */
export interface Sample {
  key: string
  title: string
  material: string
  subject: string
  /** a revision of it is in this project */
  adopted: boolean
}

const folder = () => {
  const place = process.env.VET_LINE_PROCEDURES
  if (!place) throw new Error('VET_LINE_PROCEDURES is not set: start Vet Line with ./vet-line.')
  return place
}

interface Shipped {
  source: string
  key: string
  title: string
  material: string
  subject: string
}
let shipped: Promise<Shipped[]> | null = null

async function readShipped(): Promise<Shipped[]> {
  const files = (await readdir(folder())).filter((f) => f.endsWith('.yaml')).sort()
  return Promise.all(
    files.map(async (file) => {
      const source = await readFile(join(folder(), file), 'utf8')
      const { key, title, material, subject = 'joint' } = parse(source) as Record<string, string>
      return { source, key: key!, title: title!, material: material!, subject }
    }),
  )
}
const samples = () => (shipped ??= readShipped())

export async function samplesOf(db: Knex, project: Project): Promise<Sample[]> {
  const adopted = await proceduresOf(db, project.id)
  return (await samples()).map(({ source: _, ...s }) => ({ ...s, adopted: adopted.has(s.key) }))
}

/** Takes shipped samples in as drafts. Those that the project has already are passed over. */
export async function adoptSamples(
  db: Knex,
  project: Project,
  actor: Actor,
  keys: readonly string[],
): Promise<number> {
  const all = await samples()
  const unknown = keys.find((k) => !all.some((s) => s.key === k))
  if (unknown) throw new Problem('not-found', `There is no sample "${unknown}".`, 'keys')
  const adopted = await proceduresOf(db, project.id)
  const wanted = all.filter((s) => keys.includes(s.key) && !adopted.has(s.key))
  for (const { source } of wanted) await draftProcedure(db, actor, uuidv7(), source)
  return wanted.length
}
