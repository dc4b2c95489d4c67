import { loadProcedure } from '../core/procedure/load'
import { insertProcedure, saveProcedureProjection } from '../server/db/procedures'
import { projectProcedure } from '../server/services/procedures'
import { sha256 } from '../server/services/record'
import { DAY, HOUR, write, type Brief, type Ground } from './ground'
import { EMBEDMENT } from './seed-reaches'
import { procedureSource, systemKeys } from './system-records'

type Story = 'issued' | 'in-review'

async function layProcedure(g: Ground, source: string, story: Story, daysAgo: number): Promise<string> {
  const { procedure: p } = loadProcedure(source)
  const start = g.now - daysAgo * DAY
  const id = g.random.id(start)
  const digest = sha256(source)
  await insertProcedure(g.db, g.project.id, {
    id,
    key: p.key,
    revision: p.revision,
    title: p.title,
    system: p.system,
    material: p.material,
    source,
    sha256: digest,
    draftedBy: g.people.petra!.person,
  })
  const by = (who: string, ...briefs: Brief[]) => write(g, 'procedure', id, who, briefs)
  let entries = await by(
    'petra',
    { kind: 'draft', payload: { sha256: digest, revision: p.revision }, at: start },
    { kind: 'submit', payload: { sha256: digest }, at: start + HOUR },
  )
  if (story === 'issued') {
    await by('juno', {
      kind: 'review',
      payload: { accepted: true, reason: '', sha256: digest },
      at: start + 2 * DAY,
    })
    entries = await by('petra', {
      kind: 'issue',
      payload: { sha256: digest, supersedes: null },
      at: start + 3 * DAY,
    })
  }
  await saveProcedureProjection(g.db, id, projectProcedure(entries))
  return id
}

/**
 * Every shipped procedure issued by two engineers, and a stricter revision of one that waits for its
 * review.
 */
export async function layProcedures(g: Ground): Promise<void> {
  for (const key of [...systemKeys, EMBEDMENT, 'embed-rigid', 'embed-casing'])
    g.procedures[key] = await layProcedure(g, procedureSource(key), 'issued', 38)
  const stricter = procedureSource('pe-electrofusion-socket')
    .replace('revision: A', 'revision: B')
    .replace('min(1.5 % * pipe.od, 3 mm)', 'min(0.4 % * pipe.od, 3 mm)')
    .replace('min: 0.2 mm, max: 0.4 mm', 'min: 0.25 mm, max: 0.4 mm')
  await layProcedure(g, stricter, 'in-review', 1)
}
