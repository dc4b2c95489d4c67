import type { Knex } from 'knex'
import type { CompiledProcedure } from '#core/procedure/compile'
import { loadProcedure } from '#core/procedure/load'
import { Problem } from '#core/problem'
import { findProcedure } from '../db/projects'

/** Issued revisions never change, so each is compiled once a process. */
const compiled = new Map<string, CompiledProcedure>()

export async function compiledProcedure(db: Knex, project: string, id: string): Promise<CompiledProcedure> {
  const known = compiled.get(`${project} ${id}`)
  if (known) return known
  const row = await findProcedure(db, project, id)
  if (!row) throw new Problem('not-found', 'There is no such procedure revision.', 'procedure')
  const fresh = loadProcedure(row.source)
  compiled.set(`${project} ${id}`, fresh)
  return fresh
}
