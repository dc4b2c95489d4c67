import { projectRoute } from '../../../http/route'
import { leftNow } from '../../../services/left-open'

export default projectRoute('GET /api/projects/:project/left-open', {}, async ({ db, project, actor }) =>
  leftNow(db, project, actor),
)
