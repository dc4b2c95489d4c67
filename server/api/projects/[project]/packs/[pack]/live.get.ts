import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { packLive } from '../../../../../services/pack-view'

const query = yup.object({ since: yup.number().min(0).nullable().default(null) })

export default projectRoute(
  'GET /api/projects/:project/packs/:pack/live',
  { query },
  ({ db, project, actor, params, query }) => packLive(db, project, actor, params.pack!, query.since),
)
