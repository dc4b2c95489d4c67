import { findPerson, projectsOf } from '../db/projects'
import { openRoute } from '../http/route'

export default openRoute('GET /api/session', {}, async ({ db, person }) => {
  const row = person ? await findPerson(db, { id: person }) : null
  if (!row?.active) return { now: Date.now(), person: null, projects: [] }
  return { now: Date.now(), person: { id: row.id, name: row.name }, projects: await projectsOf(db, row.id) }
})
