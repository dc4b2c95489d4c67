import { sayOfWitness } from '../../../../../services/packs'
import { witnessBody } from '../../../../../http/inputs'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/witness',
  { body: witnessBody.omit(['step']) },
  async ({ db, actor, params, body }) => {
    await sayOfWitness(db, actor, params.pack!, { ...body, payload: body.payload as Record<string, unknown> })
    return { ok: true }
  },
)
