import { projectRoute } from '../../../../../../http/route'
import { itemSheet } from '../../../../../../services/inspection'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery/items/:item',
  {},
  async ({ db, actor, params }) => itemSheet(db, actor, params.delivery!, params.item!),
)
