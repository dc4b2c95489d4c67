import { cuttingBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { previewReaches } from '../../../../../services/reaches'

export default projectRoute(
  'POST /api/projects/:project/plan/reaches/preview',
  { body: cuttingBody },
  ({ db, project, body }) => previewReaches(db, project, body),
)
