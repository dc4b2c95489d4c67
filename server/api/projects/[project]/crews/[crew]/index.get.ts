import { projectRoute } from '../../../../../http/route'
import { crewPage } from '../../../../../services/crews'

export default projectRoute('GET /api/projects/:project/crews/:crew', {}, ({ db, project, actor, params }) =>
  crewPage(db, project, actor, params.crew!),
)
