import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { correctiveAction } from '../../../../../services/ncr-depth'

const body = yup.object({
  text: yup.string().trim().min(1).max(1000).required(),
  owner: uuid().required(),
  due: yup.string().max(10).required(),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/action',
  { body },
  async ({ db, project, actor, params, body }) => {
    await correctiveAction(db, project, actor, params.ncr!, body)
    return { ok: true }
  },
)
