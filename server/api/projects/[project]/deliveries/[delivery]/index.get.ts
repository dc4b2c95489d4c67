import { deliverySheet } from '../../../../../services/delivery-sheet'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery',
  {},
  async ({ db, actor, params }) => deliverySheet(db, actor, params.delivery!),
)
