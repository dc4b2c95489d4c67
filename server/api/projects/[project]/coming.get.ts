import { projectRoute } from '../../../http/route'
import { comingPoints } from '../../../services/coming'

export default projectRoute('GET /api/projects/:project/coming', {}, ({ db, project, actor }) =>
  comingPoints(db, project, actor),
)
