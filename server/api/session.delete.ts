import { openRoute } from '../http/route'
import { leave } from '../http/session'

export default openRoute('DELETE /api/session', {}, async ({ event, db }) => {
  await leave(event, db)
  return { ok: true }
})
