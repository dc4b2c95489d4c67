import { scheduleBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { importSchedule } from '../../../../../services/planning'

export default projectRoute(
  'POST /api/projects/:project/plan/schedule',
  { body: scheduleBody, limit: 9_000_000 },
  async ({ db, project, actor, body }) => ({
    planned: await importSchedule(db, project, actor, body.line, body.file),
  }),
)
