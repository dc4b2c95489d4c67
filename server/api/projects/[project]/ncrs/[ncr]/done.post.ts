import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { correctiveAction } from '../../../../../services/ncr-depth'

const body = yup.object({
  action: uuid().required(),
  text: yup.string().trim().min(1).max(1000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/done',
  { body },
  async ({ db, project, actor, params, body }) => {
    await correctiveAction(db, project, actor, params.ncr!, body)
    return { ok: true }
  },
)
