import { reachSheet } from '../../../../../services/reaches'
import { projectRoute } from '../../../../../http/route'

export default projectRoute('GET /api/projects/:project/reaches/:reach', {}, async ({ db, actor, params }) =>
  reachSheet(db, actor, params.reach!),
)
