import { openRoute } from '../../http/route'
import { tokenOf } from '../../http/session'
import { ownSessions } from '../../services/sessions'

export default openRoute('GET /api/sessions', {}, ({ event, db, person }) =>
  ownSessions(db, person!, tokenOf(event)!),
)
