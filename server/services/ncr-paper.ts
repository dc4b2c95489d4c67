import type { Knex } from 'knex'
import { standing } from '#core/judgement/standing'
import { entriesOf, forCore } from '../db/entries'
import { findFile } from '../db/files'
import { crewsOf, type Project } from '../db/projects'
import type { NcrPaper } from './heavy/ncr-paper'
import { runHeavy } from './heavy/run'
import { ncrSheet } from './ncrs'
import type { Actor } from './record'

const told = new Set(['raise', 'disposition', 'rework', 'verification', 'concession', 'action', 'done'])

/** A nonconformance on one page, with what it looked like before and after. */
export async function ncrPdf(
  db: Knex,
  project: Project,
  actor: Actor,
  id: string,
): Promise<{ number: string; pdf: Buffer }> {
  const [{ ncr, repeat, people }, entries, crews] = await Promise.all([
    ncrSheet(db, project, actor, id),
    entriesOf(db, id),
    crewsOf(db, project.id),
  ])
  const stands = standing(entries.map(forCore))
  const photoOf = async (kind: string): Promise<NcrPaper['before']> => {
    const file = stands.findLast((e) => e.kind === kind && typeof e.payload.photo === 'string')?.payload.photo
    const found = file ? await findFile(db, project.id, String(file)) : null
    return found && { mime: found.mime, sha256: found.sha256, bytes: found.bytes }
  }
  const [before, after] = await Promise.all([photoOf('raise'), photoOf('rework')])
  const pdf = await runHeavy(
    'ncr',
    {
      ...{
        number: ncr.number,
        place: ncr.place,
        state: ncr.state,
        criterion: ncr.criterion,
        reading: ncr.reading,
      },
      crew: crews.find((c) => c.id === ncr.crew)?.name ?? '',
      repeat: { times: repeat?.times ?? 1, before: (repeat?.before ?? []).map((b) => b.number) },
      story: stands
        .filter((e) => told.has(e.kind))
        .map((e) => ({ kind: e.kind, payload: e.payload, by: people[e.person] ?? '', at: e.recordedAt })),
      ...{ before, after, digest: entries.at(-1)?.hash ?? '' },
      project: { name: project.name, zone: project.zone },
    },
    project.settings.units,
  )
  return { number: ncr.number, pdf: Buffer.from(pdf) }
}
