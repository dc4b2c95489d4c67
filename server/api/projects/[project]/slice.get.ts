import * as yup from 'yup'
import { projectRoute } from '../../../http/route'
import { slicePage } from '../../../services/slice'

const query = yup.object({
  after: yup.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
  addresses: yup.boolean().default(false),
  from: yup.number().integer().min(0).max(10_000).default(0),
})

export default projectRoute('GET /api/projects/:project/slice', { query }, ({ db, project, actor, query }) =>
  slicePage(db, project, actor, query),
)
