import { jointCounts, proceduresOf } from '../../../../db/procedures'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/procedures', {}, async ({ db, project }) => {
  const [rows, counts] = await Promise.all([proceduresOf(db, project.id), jointCounts(db, project.id)])
  return rows.map((r) => ({ ...r, joints: counts.get(r.id) ?? 0 }))
})
