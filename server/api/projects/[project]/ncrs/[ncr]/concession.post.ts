import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { concedeNcr } from '../../../../../services/concession'
import { confirmSecret } from '../../../../../services/sessions'

const body = yup.object({
  agrees: yup.boolean().strict().required(),
  text: yup.string().trim().min(1).max(2000).required(),
  secret: yup.string().min(1).max(200).required(),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/concession',
  { body },
  async ({ db, project, actor, params, body: { agrees, text, secret } }) => {
    await confirmSecret(db, actor.person, secret)
    await concedeNcr(db, project, actor, params.ncr!, { agrees, text })
    return { ok: true }
  },
)
