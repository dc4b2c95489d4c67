import { projectRoute } from '../../../../../../http/route'
import { shiftDays } from '../../../../../../services/shift-reports'

export default projectRoute(
  'GET /api/projects/:project/crews/:crew/shifts',
  {},
  ({ db, project, actor, params }) => shiftDays(db, project, actor, params.crew!),
)
