import { withdrawal } from '../../../../../http/inputs'
import { projectRoute } from '../../../../../http/route'
import { withdrawPack } from '../../../../../services/packs'
import { confirmSecret } from '../../../../../services/sessions'

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/withdraw',
  { body: withdrawal },
  async ({ db, project, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await withdrawPack(db, project, actor, params.pack!, body)
    return { ok: true }
  },
)
