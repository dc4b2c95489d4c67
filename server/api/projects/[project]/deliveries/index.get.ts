import { deliveriesOf } from '../../../../db/deliveries'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/deliveries', {}, async ({ db, project }) =>
  deliveriesOf(db, project.id),
)
