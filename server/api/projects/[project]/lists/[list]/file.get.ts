import { csvReply } from '../../../../../http/reply'
import { projectRoute } from '../../../../../http/route'
import { listCsv } from '../../../../../services/lists'

export default projectRoute(
  'GET /api/projects/:project/lists/:list/file',
  {},
  async ({ event, db, project, actor, params }) =>
    csvReply(event, params.list!, await listCsv(db, project, actor, params.list!)),
)
