import * as yup from 'yup'
import { saveDraft } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  source: yup.string().min(1).max(400_000).required(),
  version: yup.number().integer().min(1).required(),
})

export default projectRoute(
  'POST /api/projects/:project/procedures/:procedure/source',
  { body, limit: 1024 * 1024 },
  async ({ db, actor, params, body }) => {
    await saveDraft(db, actor, params.procedure!, body.source, body.version)
    return { version: body.version + 1 }
  },
)
