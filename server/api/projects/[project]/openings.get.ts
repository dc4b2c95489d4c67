import { projectRoute } from '../../../http/route'
import { openings } from '../../../services/openings'

export default projectRoute('GET /api/projects/:project/openings', {}, ({ db, project, actor }) =>
  openings(db, project, actor),
)
