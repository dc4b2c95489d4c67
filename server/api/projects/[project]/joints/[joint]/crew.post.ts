import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { giveJoint } from '../../../../../services/planning'

const body = yup.object({ crew: uuid().required(), reason: yup.string().trim().min(1).max(2000).required() })

export default projectRoute(
  'POST /api/projects/:project/joints/:joint/crew',
  { body },
  async ({ db, project, actor, params, body }) => {
    await giveJoint(db, project, actor, params.joint!, body)
    return { done: true }
  },
)
