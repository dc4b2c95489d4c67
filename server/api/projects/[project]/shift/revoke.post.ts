import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../http/route'
import { revokeShiftAnswer } from '../../../../services/shift'

const body = yup.object({
  entry: uuid().required(),
  reason: yup.string().trim().min(1).max(400).required(),
  day: yup.string().max(10),
})

export default projectRoute(
  'POST /api/projects/:project/shift/revoke',
  { body },
  async ({ db, project, actor, body }) => ({
    joints: await revokeShiftAnswer(db, project, actor, body.entry, body.reason, body.day),
  }),
)
