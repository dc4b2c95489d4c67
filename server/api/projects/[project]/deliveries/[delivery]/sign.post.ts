import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { signNote } from '../../../../../services/notes'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({ secret: yup.string().min(1).max(200).required() })

export default projectRoute(
  'POST /api/projects/:project/deliveries/:delivery/sign',
  { body },
  async ({ db, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await signNote(db, actor, params.delivery!)
    return { ok: true }
  },
)
