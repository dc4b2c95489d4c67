import { scheduleBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { previewSchedule } from '../../../../../services/planning'

export default projectRoute(
  'POST /api/projects/:project/plan/schedule/preview',
  { body: scheduleBody, limit: 9_000_000 },
  ({ db, project, body }) => previewSchedule(db, project, body.line, body.file),
)
