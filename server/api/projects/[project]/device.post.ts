import { getHeader } from 'h3'
import * as yup from 'yup'
import { projectRoute } from '../../../http/route'
import { deviceOf } from '../../../http/session'
import { deviceTakes } from '../../../services/devices'
import { confirmSecret, deviceShare } from '../../../services/sessions'

const body = yup.object({ secret: yup.string().min(1).max(200).required() })

/** Before a device keeps anything for a person, the PIN under which it does is seen to be theirs. */
export default projectRoute(
  'POST /api/projects/:project/device',
  { body },
  async ({ event, db, actor, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    const device = deviceOf(event)
    if (device) await deviceTakes(db, actor, device, getHeader(event, 'user-agent') ?? '')
    return { share: deviceShare(actor.person) }
  },
)
