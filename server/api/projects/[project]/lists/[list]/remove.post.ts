import { takeOffBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { takeOff } from '../../../../../services/lists'

export default projectRoute(
  'POST /api/projects/:project/lists/:list/remove',
  { body: takeOffBody },
  ({ db, project, actor, params, body }) => takeOff(db, project, actor, params.list!, body),
)
