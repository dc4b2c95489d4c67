import { projectRoute } from '../../../../../../http/route'
import { itemSheet } from '../../../../../../services/delivery-sheet'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery/items/:item',
  {},
  async ({ db, actor, params }) => itemSheet(db, actor, params.delivery!, params.item!),
)
