import { openRoute } from '../../http/route'
import { endOwnSession } from '../../services/sessions'

export default openRoute('DELETE /api/sessions/:session', {}, async ({ db, person, params }) => {
  await endOwnSession(db, person!, params.session!)
  return { ok: true }
})
