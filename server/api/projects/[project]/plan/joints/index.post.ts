import { generatorBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { planJoints } from '../../../../../services/planning'

export default projectRoute(
  'POST /api/projects/:project/plan/joints',
  { body: generatorBody },
  async ({ db, project, actor, body }) => ({ planned: await planJoints(db, project, actor, body) }),
)
