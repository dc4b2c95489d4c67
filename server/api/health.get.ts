import { openRoute } from '../http/route'

export default openRoute('GET /api/health', {}, async ({ db }) => {
  await db.raw('SELECT 1')
  return { ok: true }
})
