import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { listRows } from '../../../../../services/lists'

const query = yup.object({ from: yup.number().integer().min(0).max(1_000_000).default(0) })

export default projectRoute(
  'GET /api/projects/:project/lists/:list',
  { query },
  ({ db, project, actor, params, query }) => listRows(db, project, actor, params.list!, query.from),
)
