import { packSheet } from '../../../../../services/pack-view'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/packs/:pack',
  {},
  async ({ db, project, actor, params }) => packSheet(db, project, actor, params.pack!),
)
