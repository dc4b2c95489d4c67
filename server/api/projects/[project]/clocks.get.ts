import { clocks } from '../../../services/clocks'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/clocks', {}, async ({ db, project, actor }) =>
  clocks(db, project, actor),
)
