import { getRequestIP } from 'h3'
import * as yup from 'yup'
import { openRoute } from '../http/route'
import { signIn } from '../http/session'

const body = yup.object({ signIn: yup.string().trim().min(1).max(60).required(), password: yup.string().min(1).max(200).required() })

export default openRoute('POST /api/session', { body }, async ({ event, db, body }) => {
  const person = await signIn(db, body.signIn, body.password, getRequestIP(event) ?? '')
  await replaceUserSession(event, { user: { id: person.id } })
  return { id: person.id, name: person.name }
})
