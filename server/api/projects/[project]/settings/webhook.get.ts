import { projectRoute } from '../../../../http/route'
import { webhookOf } from '../../../../services/webhooks'

export default projectRoute('GET /api/projects/:project/settings/webhook', {}, async ({ db, project }) => ({
  webhook: await webhookOf(db, project),
}))
