import { projectRoute } from '../../../../http/route'
import { checkPlan } from '../../../../services/planning'

export default projectRoute('GET /api/projects/:project/plan', {}, ({ db, project }) =>
  checkPlan(db, project),
)
