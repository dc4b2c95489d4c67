import { projectRoute } from '../../../../../http/route'
import { lotSheet } from '../../../../../services/lots'

export default projectRoute(
  'GET /api/projects/:project/lots/:lot',
  {},
  async ({ db, project, actor, params }) => lotSheet(db, project, actor, params.lot!),
)
