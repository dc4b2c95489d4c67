import { getRequestIP } from 'h3'
import * as yup from 'yup'
import { openRoute } from '../../http/route'
import { enter } from '../../http/session'
import { foundInstallation } from '../../services/links'

const words = (max: number) => yup.string().strict().trim().min(1).max(max).required()
const body = yup.object({
  token: yup.string().min(1).max(100).required(),
  installation: words(120),
  name: words(120),
  signIn: words(60),
  password: yup.string().max(400).required(),
  pin: yup.string().max(20).required(),
})

export default openRoute(
  'POST /api/links/found',
  { body },
  async ({ event, db, body: { token, ...founding } }) => {
    const { signIn } = await foundInstallation(db, token, getRequestIP(event) ?? '', founding)
    return enter(event, db, signIn, founding.password)
  },
)
