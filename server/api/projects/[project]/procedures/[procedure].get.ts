import { Problem } from '#core/problem'
import { findProcedure } from '../../../../db/projects'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/procedures/:procedure', {}, async ({ db, project, params }) => {
  const row = await findProcedure(db, project.id, params.procedure!)
  if (!row) throw new Problem('not-found', 'There is no such procedure revision.', 'procedure')
  return row
})
