import * as yup from 'yup'
import { FILE_LIMIT, noteSource } from '../../../../http/inputs'
import { projectRoute } from '../../../../http/route'
import { importNote } from '../../../../services/notes'

const body = yup.object({ ...noteSource, number: yup.string().trim().max(60).default('') })

export default projectRoute(
  'POST /api/projects/:project/deliveries',
  { body, limit: FILE_LIMIT },
  async ({ db, actor, body }) => ({ id: await importNote(db, actor, body.order, body, body.number) }),
)
