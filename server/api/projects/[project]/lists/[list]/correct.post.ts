import { correctBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { correctRow } from '../../../../../services/lists'

export default projectRoute(
  'POST /api/projects/:project/lists/:list/correct',
  { body: correctBody },
  async ({ db, project, actor, params, body }) => {
    await correctRow(db, project, actor, params.list!, body)
    return { done: true }
  },
)
