import * as yup from 'yup'
import { forgetKnown, projectRoute } from '../../../../../http/route'
import { changeActive } from '../../../../../services/people'

const body = yup.object({
  active: yup.boolean().required(),
  reason: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/people/:person/active',
  { body },
  async ({ db, project, actor, params, body }) => {
    await changeActive(db, project, actor, params.person!, body)
    forgetKnown()
    return { done: true }
  },
)
