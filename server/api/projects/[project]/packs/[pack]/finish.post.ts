import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { finishRun } from '../../../../../services/pack-runs'

const body = yup.object({ reason: yup.string().trim().max(2000).default('') })

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/finish',
  { body },
  async ({ db, project, actor, params, body }) => ({
    verdict: (await finishRun(db, project, actor, params.pack!, body.reason || null)).verdict,
  }),
)
