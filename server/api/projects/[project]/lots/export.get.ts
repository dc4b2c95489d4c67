import { csvReply } from '../../../../http/reply'
import { projectRoute } from '../../../../http/route'
import { lotsCsv } from '../../../../services/exports'

export default projectRoute('GET /api/projects/:project/lots/export', {}, async ({ event, db, actor }) =>
  csvReply(event, 'lots', await lotsCsv(db, actor)),
)
