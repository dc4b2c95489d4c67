import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { issueProcedure } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({ secret: yup.string().min(1).max(200).required() })

export default projectRoute(
  'POST /api/projects/:project/procedures/:procedure/issue',
  { body },
  async ({ db, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await issueProcedure(db, actor, params.procedure!)
    return { ok: true }
  },
)
