import * as yup from 'yup'
import { rolesGiven } from '../../../../../http/plan-inputs'
import { forgetKnown, projectRoute } from '../../../../../http/route'
import { changeRoles } from '../../../../../services/people'

const body = yup.object({ roles: rolesGiven, reason: yup.string().trim().min(1).max(2000).required() })

export default projectRoute(
  'POST /api/projects/:project/people/:person/roles',
  { body },
  async ({ db, project, actor, params, body }) => {
    await changeRoles(db, project, actor, params.person!, body)
    forgetKnown()
    return { done: true }
  },
)
