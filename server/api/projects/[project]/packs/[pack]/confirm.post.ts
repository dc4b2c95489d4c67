import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { confirmRow } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  row: yup.string().max(40).required(),
  photo: uuid().nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/confirm',
  { body },
  async ({ db, actor, params, body }) => {
    await confirmRow(db, actor, params.pack!, body)
    return { ok: true }
  },
)
