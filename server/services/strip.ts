import { fillShare } from '#core/embedment/fill-share'
import type { Knex } from 'knex'
import { packStrip } from '#core/line/strip-rows'
import type { Project } from '../db/projects'
import { reachesOf } from '../db/reaches'
import { packsOf } from '../db/packs'
import { stripJoints } from '../db/strip'
import { lineOf } from './named'
import type { Actor } from './record'

const jointsOf = async (
  db: Knex,
  project: Project,
  actor: Actor,
  alignment: string,
  ids?: readonly string[],
) => packStrip(await stripJoints(db, { project: project.id, alignment, crew: actor.crew, ids }))

/** Reaches and test packs of the line. */
async function spansOf(db: Knex, project: Project, actor: Actor, alignment: string) {
  const [packs, reaches] = await Promise.all([packsOf(db, project.id), reachesOf(db, project.id, actor.crew)])
  return {
    packs: packs
      .filter((p) => p.alignment === alignment)
      .map(({ id, number, from, to, state, verdict }) => ({ id, number, from, to, state, verdict })),
    reaches: reaches
      .filter((r) => r.alignment === alignment)
      .map(({ id, name, from, to, state, summary }) => ({
        ...{ id, name, from, to, state },
        filled: fillShare(summary.figures),
      })),
  }
}

/** The line as the strip draws it. */
export async function strip(db: Knex, project: Project, actor: Actor, alignment: string) {
  await lineOf(db, project, alignment)
  const [joints, spans] = await Promise.all([
    jointsOf(db, project, actor, alignment),
    spansOf(db, project, actor, alignment),
  ])
  return { joints, ...spans }
}

/** What of the strip has changed: joints by their ids, and its reaches and packs where one of them moved. */
export async function stripChanges(
  db: Knex,
  project: Project,
  actor: Actor,
  alignment: string,
  of: { joints: readonly string[]; spans: boolean },
) {
  await lineOf(db, project, alignment)
  const [joints, spans] = await Promise.all([
    jointsOf(db, project, actor, alignment, of.joints),
    of.spans ? spansOf(db, project, actor, alignment) : null,
  ])
  return { joints, spans }
}
