import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { signPack } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  secret: yup.string().min(1).max(200).required(),
  image: yup
    .string()
    .max(200_000)
    .matches(/^data:image\/png;base64,[A-Za-z0-9+/=]+$/, 'Draw the signature.')
    .required(),
})

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/sign',
  { body },
  async ({ db, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    await signPack(db, actor, params.pack!, body.image)
    return { ok: true }
  },
)
