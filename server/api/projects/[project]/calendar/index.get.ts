import { projectRoute } from '../../../../http/route'
import { calendarOf } from '../../../../services/calendar'

export default projectRoute('GET /api/projects/:project/calendar', {}, ({ db, actor }) =>
  calendarOf(db, actor),
)
