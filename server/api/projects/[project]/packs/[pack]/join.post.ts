import { projectRoute } from '../../../../../http/route'
import { joinRun } from '../../../../../services/pack-runs'

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/join',
  {},
  async ({ db, actor, params }) => {
    await joinRun(db, actor, params.pack!)
    return { ok: true }
  },
)
