import { projectRoute } from '../../../../http/route'
import { crewLines } from '../../../../services/crews'

export default projectRoute('GET /api/projects/:project/crews', {}, ({ db, project, actor }) =>
  crewLines(db, project, actor),
)
