import { projectRoute } from '../../../../http/route'
import { revokeCalendar } from '../../../../services/calendar'

export default projectRoute('POST /api/projects/:project/calendar/revoke', {}, async ({ db, actor }) => {
  await revokeCalendar(db, actor)
  return { ok: true }
})
