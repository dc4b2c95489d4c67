import { projectRoute } from '../../../../http/route'
import { ncrCounts } from '../../../../services/ncr-depth'

export default projectRoute('GET /api/projects/:project/ncrs/counts', {}, ({ db, project, actor }) =>
  ncrCounts(db, project, actor),
)
