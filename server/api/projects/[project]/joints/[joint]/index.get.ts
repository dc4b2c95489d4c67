import { jointSheet } from '../../../../../services/worksheet'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/joints/:joint',
  {},
  async ({ db, project, actor, params }) => jointSheet(db, project, actor, params.joint!),
)
