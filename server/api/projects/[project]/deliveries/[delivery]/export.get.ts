import { csvReply } from '../../../../../http/reply'
import { projectRoute } from '../../../../../http/route'
import { itemsCsv } from '../../../../../services/exports'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery/export',
  {},
  async ({ event, db, actor, params }) => {
    const { name, csv } = await itemsCsv(db, actor, params.delivery!)
    return csvReply(event, `${name}-items`, csv)
  },
)
