import { today } from '../../../services/overview'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/today', {}, async ({ db, project, actor }) =>
  today(db, project, actor),
)
