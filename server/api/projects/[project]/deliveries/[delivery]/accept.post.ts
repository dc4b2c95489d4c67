import { acceptRest } from '../../../../../services/inspection'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'POST /api/projects/:project/deliveries/:delivery/accept',
  {},
  async ({ db, actor, params }) => acceptRest(db, actor, params.delivery!),
)
