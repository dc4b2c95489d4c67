import { cuttingBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { planReaches } from '../../../../../services/reaches'

export default projectRoute(
  'POST /api/projects/:project/plan/reaches',
  { body: cuttingBody },
  async ({ db, project, actor, body }) => ({ planned: await planReaches(db, project, actor, body) }),
)
