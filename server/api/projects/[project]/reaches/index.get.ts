import { reachesOf } from '../../../../db/reaches'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/reaches', {}, async ({ db, project, actor }) =>
  reachesOf(db, project.id, actor.crew),
)
