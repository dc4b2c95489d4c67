import { verifyRecord } from '../../../services/verify'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/verify', {}, async ({ db, project }) =>
  verifyRecord(db, [project]),
)
