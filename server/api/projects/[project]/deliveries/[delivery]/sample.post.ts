import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { drawSampleOf } from '../../../../../services/sampling'

export default projectRoute(
  'POST /api/projects/:project/deliveries/:delivery/sample',
  { body: yup.object({ item: yup.string().max(80).required() }) },
  async ({ db, actor, params, body }) => {
    await drawSampleOf(db, actor, params.delivery!, body.item)
    return { ok: true }
  },
)
