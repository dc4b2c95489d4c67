import { projectRoute } from '../../../http/route'
import { releasers } from '../../../services/release-here'

export default projectRoute('GET /api/projects/:project/releasers', {}, ({ db, project }) =>
  releasers(db, project),
)
