import { ncrSheet } from '../../../../../services/ncrs'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/ncrs/:ncr',
  {},
  async ({ db, project, actor, params }) => ncrSheet(db, project, actor, params.ncr!),
)
