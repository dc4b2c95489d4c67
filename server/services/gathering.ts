import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import type { Register } from '#core/checks/gathered'
import { knownCalibrated } from '#core/checks/instruments'
import { knownQualified, qualifiedOn } from '#core/crew/qualification'
import type { CompiledProcedure } from '#core/procedure/compile'
import { plainKey } from '#core/procedure/ends'
import { instrumentsOf } from '../db/instruments'
import type { Project } from '../db/projects'
import { qualificationsOf } from '../db/qualifications'
import { pointsOf, type Placed } from './judging'
import type { Actor, NewEntry } from './record'
import { dayOf } from '#core/quantity/day'

interface Asked {
  db: Knex
  project: Project
  actor: Actor
  compiled: CompiledProcedure
  at: Date
}

/** What each register knows, in a sentence; null where it does not, and a person is asked. */
const ask: Record<Register, (asked: Asked) => Promise<string | null>> = {
  async qualification({ db, project, actor, compiled, at }) {
    const own = await qualificationsOf(db, project.id, actor.person)
    const day = dayOf(at.getTime(), project.zone)
    return knownQualified(qualifiedOn(own, compiled.procedure.key, day))
  },
  async instruments({ db, project, compiled, at }) {
    const kinds = compiled.steps.flatMap(({ step: { check } }) =>
      'instrument' in check && check.instrument ? [check.instrument] : [],
    )
    return knownCalibrated(kinds, await instrumentsOf(db, project.id), at.getTime())
  },
}

/**
 * What registers know of the work that this person opens, as entries for its record. Where the plan has
 * somebody come and look, the question is asked all the same.
 */
export async function gatheredAnswers(
  db: Knex,
  project: Project,
  actor: Actor,
  subject: Omit<Placed, 'openedAt'>,
  { compiled, at }: { compiled: CompiledProcedure; at: Date },
): Promise<NewEntry[]> {
  const { plan } = pointsOf(project, compiled, { ...subject, openedAt: at.toISOString() })
  const out: NewEntry[] = []
  for (const { step } of compiled.steps) {
    const { check, key } = step
    const planned = plan[plainKey(key)]
    const point = planned === undefined ? step.point : planned
    if (check.kind !== 'gathered' || point === 'H' || point === 'W') continue
    const found = await ask[check.register]({ db, project, actor, compiled, at })
    if (found !== null)
      out.push({ id: uuidv7(), kind: 'gathered', step: key, payload: { found }, recordedAt: at })
  }
  return out
}
