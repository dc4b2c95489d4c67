import { overview } from '../../../services/overview'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/overview', {}, async ({ db, project, actor }) =>
  overview(db, project, actor),
)
