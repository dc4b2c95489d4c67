import * as yup from 'yup'
import { find } from '../../../services/find'
import { projectRoute } from '../../../http/route'

const query = yup.object({ text: yup.string().trim().min(1).max(80).required() })

export default projectRoute(
  'GET /api/projects/:project/find',
  { query },
  async ({ db, project, actor, query }) => find(db, project, actor, query.text),
)
