import { getRequestIP } from 'h3'
import * as yup from 'yup'
import { openRoute } from '../../http/route'
import { enter } from '../../http/session'
import { chooseSecrets } from '../../services/links'

const body = yup.object({
  token: yup.string().min(1).max(100).required(),
  password: yup.string().max(400).required(),
  pin: yup.string().max(20).required(),
})

export default openRoute(
  'POST /api/links/choose',
  { body },
  async ({ event, db, body: { token, ...secrets } }) => {
    const { signIn } = await chooseSecrets(db, token, getRequestIP(event) ?? '', secrets)
    return enter(event, db, signIn, secrets.password)
  },
)
