import { strip } from '../../../../../services/overview'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/lines/:line/strip',
  {},
  async ({ db, project, actor, params }) => strip(db, project, actor, params.line!),
)
