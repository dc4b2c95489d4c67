import { projectRoute } from '../../../../../http/route'
import { halvingOf } from '../../../../../services/halving'
import { packOf } from '../../../../../services/pack-sheet'

export default projectRoute(
  'GET /api/projects/:project/packs/:pack/halving',
  {},
  async ({ db, project, actor, params }) => halvingOf(db, project, await packOf(db, actor, params.pack!)),
)
