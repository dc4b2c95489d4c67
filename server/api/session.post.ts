import * as yup from 'yup'
import { openRoute } from '../http/route'
import { enter } from '../http/session'

const body = yup.object({
  signIn: yup.string().min(1).max(60).required(),
  password: yup.string().min(1).max(200).required(),
})

export default openRoute('POST /api/session', { body }, ({ event, db, body }) =>
  enter(event, db, body.signIn, body.password),
)
