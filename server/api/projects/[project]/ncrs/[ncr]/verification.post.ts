import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { verifyNcr } from '../../../../../services/ncrs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  secret: yup.string().min(1).max(200).required(),
  accepted: yup.boolean().required(),
  text: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/verification',
  { body },
  async ({ db, project, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await verifyNcr(db, project, actor, params.ncr!, body.accepted, body.text)
    return { ok: true }
  },
)
