import { projectRoute } from '../../../http/route'
import { roundStops } from '../../../services/round'

export default projectRoute('GET /api/projects/:project/round', {}, ({ db, project, actor }) =>
  roundStops(db, project, actor),
)
