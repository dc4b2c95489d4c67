import * as yup from 'yup'
import { projectRoute } from '../../../http/route'
import { readingList } from '../../../services/reading'

const query = yup.object({ from: yup.number().integer().min(0).default(0) })

export default projectRoute(
  'GET /api/projects/:project/reading',
  { query },
  async ({ db, project, query: { from } }) => readingList(db, project, from),
)
