import { projectRoute } from '../../../../../../../http/route'
import { shiftPage } from '../../../../../../../services/shift-reports'

export default projectRoute(
  'GET /api/projects/:project/crews/:crew/shifts/:day',
  {},
  ({ db, project, actor, params }) => shiftPage(db, project, actor, params.crew!, params.day!),
)
