import { projectRoute } from '../../../../../http/route'
import { strip } from '../../../../../services/strip'

export default projectRoute(
  'GET /api/projects/:project/lines/:line/strip',
  {},
  ({ db, project, actor, params }) => strip(db, project, actor, params.line!),
)
