import { submitProcedure } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'POST /api/projects/:project/procedures/:procedure/submit',
  {},
  async ({ db, actor, params }) => {
    await submitProcedure(db, actor, params.procedure!)
    return { ok: true }
  },
)
