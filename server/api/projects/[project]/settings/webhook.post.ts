import * as yup from 'yup'
import { projectRoute } from '../../../../http/route'
import { setWebhook } from '../../../../services/webhooks'

const body = yup.object({
  address: yup.string().trim().min(1).max(400).nullable().default(null),
  reason: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/settings/webhook',
  { body },
  async ({ db, project, actor, body }) => setWebhook(db, project, actor, body),
)
