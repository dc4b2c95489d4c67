import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { logFile } from '../../../../../http/inputs'
import { importLog } from '../../../../../services/pack-runs'

const body = logFile.concat(yup.object({ reason: yup.string().trim().max(2000).default('') }))

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/log',
  { body, limit: 16_000_000 },
  async ({ db, project, actor, params, body }) => ({
    verdict: (await importLog(db, project, actor, params.pack!, { ...body, reason: body.reason || null }))
      .verdict,
  }),
)
