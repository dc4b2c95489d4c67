import * as yup from 'yup'
import { paging } from '../../../../http/inputs'
import { projectRoute } from '../../../../http/route'
import { listLots } from '../../../../services/lots'

export default projectRoute(
  'GET /api/projects/:project/lots',
  { query: yup.object(paging) },
  async ({ db, project, query }) => listLots(db, project, query),
)
