import { reachSheet } from '../../../../../services/worksheet'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/reaches/:reach',
  {},
  async ({ db, project, actor, params }) => reachSheet(db, project, actor, params.reach!),
)
