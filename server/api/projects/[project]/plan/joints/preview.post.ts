import { generatorBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { previewJoints } from '../../../../../services/planning'

export default projectRoute(
  'POST /api/projects/:project/plan/joints/preview',
  { body: generatorBody },
  async ({ db, project, body }) => ({ joints: await previewJoints(db, project, body) }),
)
