import { confirmSecret } from '../../../../../services/sessions'
import { signPack } from '../../../../../services/packs'
import { drawnSignature } from '../../../../../http/inputs'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/sign',
  { body: drawnSignature },
  async ({ db, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await signPack(db, actor, params.pack!, body.image)
    return { ok: true }
  },
)
