import { today } from '../../../services/today'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/today', {}, async ({ db, project, actor }) =>
  today(db, project, actor),
)
