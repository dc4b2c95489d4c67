import { ordersOf } from '../../../../db/deliveries'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/orders', {}, async ({ db, project }) =>
  ordersOf(db, project.id),
)
