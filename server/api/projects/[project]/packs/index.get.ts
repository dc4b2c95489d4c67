import { packsOf } from '../../../../db/packs'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/packs', {}, async ({ db, project }) =>
  packsOf(db, project.id),
)
