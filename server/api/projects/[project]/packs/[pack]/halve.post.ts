import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { planHalves } from '../../../../../services/halving'

const body = yup.object({ at: yup.number().strict().required() })

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/halve',
  { body },
  ({ db, project, actor, params, body }) => planHalves(db, project, actor, params.pack!, body.at),
)
