import * as yup from 'yup'
import { projectRoute } from '../../../../http/route'
import { shiftAnswers } from '../../../../services/shift'

export default projectRoute(
  'GET /api/projects/:project/shift',
  { query: yup.object({ day: yup.string().max(10) }) },
  ({ db, project, actor, query }) => shiftAnswers(db, project, actor, query.day),
)
