import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { changeCrew } from '../../../../../services/people'

const body = yup.object({
  name: yup.string().strict().trim().min(1).max(80).required(),
  reason: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/crews/:crew',
  { body },
  async ({ db, project, actor, params, body }) => {
    await changeCrew(db, project, actor, params.crew!, body)
    return { done: true }
  },
)
