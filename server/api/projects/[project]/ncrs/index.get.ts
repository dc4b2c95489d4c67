import { ncrsOf } from '../../../../db/ncrs'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/ncrs', {}, async ({ db, project, actor }) =>
  ncrsOf(db, project.id, { crew: actor.crew }),
)
