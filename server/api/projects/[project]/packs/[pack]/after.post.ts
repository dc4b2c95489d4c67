import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { sayAfter } from '../../../../../services/pack-runs'

const body = yup.object({ row: yup.string().max(40).required(), answer: yup.string().max(40).required() })

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/after',
  { body },
  async ({ db, actor, params, body }) => {
    await sayAfter(db, actor, params.pack!, body)
    return { ok: true }
  },
)
