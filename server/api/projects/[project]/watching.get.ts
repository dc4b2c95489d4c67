import { projectRoute } from '../../../http/route'
import { watching } from '../../../services/reading'

export default projectRoute('GET /api/projects/:project/watching', {}, async ({ db, project }) =>
  watching(db, project),
)
