import { wordedIn } from '#core/quantity/site-units'
import { showMetres } from '#core/quantity/show'
import type { Knex } from 'knex'
import { uuidv7 } from 'uuidv7'
import { elevationAt } from '#core/pressure/pack'
import {
  canBeShut,
  expectedTests,
  nextSplit,
  suspectStretches,
  tightBy,
  type NextSplit,
  type Stretch,
} from '#core/pressure/halving'
import { Problem } from '#core/problem'
import { nameKey } from '#core/record/names'
import { inTransaction } from '../db/connection'
import { jointsWhere } from '../db/joints'
import { structuresOf } from '../db/lists'
import { alignmentsOf, type Project, wordsFor } from '../db/projects'
import { insertPack, packsOf, type Pack } from '../db/packs'
import { noteChange } from './changes'
import { packOf } from './pack-sheet'
import { actingRole, type Actor } from './record'

export interface Halving {
  /** where the leak may still be */
  suspects: (Stretch & { joints: { id: string; number: string; station: number }[] })[]
  /** tests of parts, in their order */
  parts: {
    id: string
    number: string
    from: number
    to: number
    state: Pack['state']
    tight: boolean | null
  }[]
  next: (NextSplit & Stretch) | null
  /** tests that are still to come on the mean, and joints that would be opened instead */
  expected: number
  joints: number
}

/** How far a failed pack has been narrowed down by the tests of its parts. */
export async function halvingOf(db: Knex, project: Project, pack: Pack): Promise<Halving> {
  const [packs, joints, structures] = await Promise.all([
    packsOf(db, project.id),
    jointsWhere(db, {
      ...{ project: project.id, alignment: pack.alignment, from: pack.from, to: pack.to },
    }),
    structuresOf(db, project.id),
  ])
  const inside = (p: Pack) =>
    p.id !== pack.id &&
    p.alignment === pack.alignment &&
    p.from >= pack.from - 0.01 &&
    p.to <= pack.to + 0.01 &&
    p.number.startsWith(`${pack.number}.`)
  const parts = packs
    .filter(inside)
    .map((p) => ({
      id: p.id,
      number: p.number,
      from: p.from,
      to: p.to,
      state: p.state,
      tight: tightBy(p.state, p.verdict),
    }))
    .sort((a, b) => a.number.localeCompare(b.number, 'en', { numeric: true }))
  const told = parts.flatMap((p) => (p.tight === null ? [] : [{ from: p.from, to: p.to, tight: p.tight }]))
  const suspects = suspectStretches(pack, told).map((s) => ({
    ...s,
    joints: joints
      .filter((j) => j.station >= s.from - 0.01 && j.station <= s.to + 0.01)
      .map((j) => ({ id: j.id, number: j.number, station: j.station })),
  }))
  const widest = suspects.reduce<(typeof suspects)[number] | null>(
    (best, s) => (best === null || s.joints.length > best.joints.length ? s : best),
    null,
  )
  const between = (list: readonly { station: number }[]) =>
    list.slice(1).map((j, i) => ({ at: (j.station + list[i]!.station) / 2, name: null }))
  const places = [
    ...structures
      .filter((s) => s.alignment === pack.alignment && canBeShut(s.kind))
      .map((s) => ({ at: s.station, name: s.name })),
    ...between(widest?.joints ?? []),
  ]
  const next = widest && widest.joints.length > 1 ? nextSplit(widest, places) : null
  const all = suspects.reduce((n, s) => n + s.joints.length, 0)
  return {
    ...{ suspects, parts, expected: expectedTests(all), joints: all },
    next: next && { ...next, from: widest!.from, to: widest!.to },
  }
}

/** Plans the next two tests of a failed pack: the suspect stretch parted at a station, else as the pack was. */
export async function planHalves(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
  at: number,
): Promise<{ packs: string[] }> {
  actingRole(actor, 'plan-halves')
  const pack = await packOf(db, actor, id)
  if (pack.state !== 'failed') throw new Problem('not-failed', 'Only a test that failed is halved.', 'pack')
  const { next, parts } = await halvingOf(db, project, pack)
  if (!next) throw new Problem('at-one-joint', 'One joint is left: there is nothing to part.', 'at')
  const said = (s: number) => wordedIn(wordsFor(project), () => showMetres(s, 1))
  if (!(at > next.from + 0.01 && at < next.to - 0.01))
    throw new Problem('off-stretch', `Part it between ${said(next.from)} and ${said(next.to)}.`, 'at')
  if (parts.some((p) => p.tight === null))
    throw new Problem('still-open', 'A part is planned and not tested yet.', 'pack')
  const line = (await alignmentsOf(db, project.id)).find((l) => l.id === pack.alignment)!
  const taken = new Set((await packsOf(db, project.id)).map((p) => nameKey(p.number)))
  const free = (n: number): string =>
    taken.has(nameKey(`${pack.number}.${n}`)) ? free(n + 1) : `${pack.number}.${n}`
  const spans = [
    { from: next.from, to: at },
    { from: at, to: next.to },
  ]
  return inTransaction(db, async (trx) => {
    const made: string[] = []
    for (const span of spans) {
      const number = free(1)
      taken.add(nameKey(number))
      const part = uuidv7()
      const { gaugeElevation: _before, ...design } = pack.design
      await insertPack(trx, project.id, {
        ...{ id: part, alignment: pack.alignment, number, ...span, method: pack.method, gauge: pack.gauge },
        dueAt: null,
        design: {
          ...design,
          section: { ...design.section, length: span.to - span.from },
          gaugeElevation: elevationAt(line.profile, span.from),
        },
      })
      await noteChange(trx, actor, 'plan-halves', { what: 'pack', number, ...span, of: pack.number })
      made.push(part)
    }
    return { packs: made }
  })
}
