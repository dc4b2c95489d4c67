import { projectRoute } from '../../../../http/route'
import { samplesOf } from '../../../../services/samples'

export default projectRoute('GET /api/projects/:project/samples', {}, ({ db, project }) =>
  samplesOf(db, project),
)
