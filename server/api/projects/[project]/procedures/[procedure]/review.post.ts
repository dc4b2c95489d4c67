import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { reviewProcedure } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  accepted: yup.boolean().required(),
  reason: yup.string().trim().max(2000).default(''),
  secret: yup.string().min(1).max(200).required(),
})

export default projectRoute(
  'POST /api/projects/:project/procedures/:procedure/review',
  { body },
  async ({ db, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await reviewProcedure(db, actor, params.procedure!, body.accepted, body.reason)
    return { ok: true }
  },
)
