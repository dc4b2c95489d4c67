import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { loseDevice } from '../../../../../services/devices'

const body = yup.object({
  person: uuid().required(),
  reason: yup.string().trim().min(1).max(400).required(),
})

export default projectRoute(
  'POST /api/projects/:project/devices/:device/end',
  { body },
  async ({ db, project, actor, params, body }) => {
    await loseDevice(db, project, actor, { id: params.device!, person: body.person }, body.reason)
    return { ok: true }
  },
)
