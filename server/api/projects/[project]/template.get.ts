import { jsonFileReply } from '../../../http/reply'
import { projectRoute } from '../../../http/route'
import { templateOf } from '../../../services/template'

export default projectRoute(
  'GET /api/projects/:project/template',
  {},
  async ({ event, db, project, actor }) =>
    jsonFileReply(event, `${project.key}-template`, await templateOf(db, project, actor)),
)
