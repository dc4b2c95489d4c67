import { projectRoute } from '../../../../http/route'
import { makeCalendar } from '../../../../services/calendar'

export default projectRoute('POST /api/projects/:project/calendar', {}, ({ db, actor }) =>
  makeCalendar(db, actor),
)
