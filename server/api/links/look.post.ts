import { getRequestIP } from 'h3'
import * as yup from 'yup'
import { openRoute } from '../../http/route'
import { lookAtLink } from '../../services/links'

const body = yup.object({ token: yup.string().min(1).max(100).required() })

export default openRoute('POST /api/links/look', { body }, ({ event, db, body }) =>
  lookAtLink(db, body.token, getRequestIP(event) ?? ''),
)
