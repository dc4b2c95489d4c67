import { deliverySheet } from '../../../../../services/inspection'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery',
  {},
  async ({ db, actor, params }) => deliverySheet(db, actor, params.delivery!),
)
