import { projectRoute } from '../../../../../http/route'
import { logFile } from '../../../../../http/inputs'
import { lookAtFile } from '../../../../../services/pack-runs'

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/look',
  { body: logFile, limit: 16_000_000 },
  ({ db, project, actor, params, body }) => lookAtFile(db, project, actor, params.pack!, body),
)
