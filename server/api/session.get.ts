import { isKeeper } from '../db/people'
import { findPerson, projectsOf } from '../db/projects'
import { openRoute } from '../http/route'
import { deviceShare } from '../services/sessions'

export default openRoute('GET /api/session', {}, async ({ db, person }) => {
  const row = person ? await findPerson(db, { id: person }) : null
  if (!row?.active) return { now: Date.now(), person: null, projects: [], keeper: false, share: null }
  const [projects, keeper] = await Promise.all([projectsOf(db, row.id), isKeeper(db, row.id)])
  const share = deviceShare(row.id)
  return { now: Date.now(), person: { id: row.id, name: row.name }, projects, keeper, share }
})
