import * as yup from 'yup'
import { startTest } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  reason: yup.string().trim().max(2000).nullable().default(null),
  since: yup.string().trim().max(2000).nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/start',
  { body },
  async ({ db, project, actor, params, body }) => {
    await startTest(db, project, actor, params.pack!, {
      reason: body.reason || null,
      since: body.since || null,
    })
    return { ok: true }
  },
)
