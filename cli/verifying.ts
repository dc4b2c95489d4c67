import { findProject, type Project } from '../server/db/projects'
import { verifyRecord } from '../server/services/verify'
import { applicationConnection, ensureDatabase } from './mariadb'
import { placesAt } from './places'
import { json, note } from './say'

/** Checks every chain and rebuilds every projection of this folder's database. Exit code 1 with any fault. */
export async function verifyDatabase(): Promise<number> {
  const settings = await ensureDatabase(placesAt())
  const db = applicationConnection(settings)
  try {
    const keys: string[] = await db('projects').pluck('project_key')
    const projects = (await Promise.all(keys.map((k) => findProject(db, k)))).filter(
      (p): p is Project => p !== null,
    )
    const report = await verifyRecord(db, projects)
    json(report)
    for (const f of report.faults)
      note(`${f.subjectType} ${f.subject}: entry ${f.seq} (${f.entry}): ${f.fault}.`)
    for (const s of report.stale)
      note(
        `${s.subjectType} ${s.subject}: ${s.field} is stored as ${JSON.stringify(s.stored)}, ` +
          `the entries give ${JSON.stringify(s.rebuilt)}.`,
      )
    if (report.judging > 0 && report.stale.length > 0)
      note(
        'Subjects were being judged anew meanwhile: what is stored otherwise may be what was still to come. ' +
          'Look again in a minute.',
      )
    return report.faults.length + report.stale.length === 0 ? 0 : 1
  } finally {
    await db.destroy()
  }
}
