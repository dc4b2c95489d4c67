import { openRoute } from '../http/route'

export default openRoute('DELETE /api/session', {}, async ({ event }) => {
  await clearUserSession(event)
  return { ok: true }
})
