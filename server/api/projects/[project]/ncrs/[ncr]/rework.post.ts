import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { reworkNcr } from '../../../../../services/ncrs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  text: yup.string().trim().min(1).max(2000).required(),
  photo: uuid().nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/rework',
  { body },
  async ({ db, actor, params, body }) => {
    await reworkNcr(db, actor, params.ncr!, body.text, body.photo)
    return { ok: true }
  },
)
