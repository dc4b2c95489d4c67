import * as yup from 'yup'
import { projectRoute } from '../../../http/route'
import { confirmSecret, deviceShare } from '../../../services/sessions'

const body = yup.object({ secret: yup.string().min(1).max(200).required() })

/** Before a device keeps anything for a person, the PIN under which it does is seen to be theirs. */
export default projectRoute('POST /api/projects/:project/device', { body }, async ({ db, actor, body }) => {
  await confirmSecret(db, actor.person, body.secret)
  return { share: deviceShare(actor.person) }
})
