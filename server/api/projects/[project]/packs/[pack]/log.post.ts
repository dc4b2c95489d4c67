import * as yup from 'yup'
import { importLog } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  csv: yup.string().min(1).max(15_000_000).required(),
  reason: yup.string().trim().max(2000).default(''),
})

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/log',
  { body, limit: 16_000_000 },
  async ({ db, actor, params, body }) => ({
    verdict: (await importLog(db, actor, params.pack!, body.csv, body.reason || null)).verdict,
  }),
)
