import * as yup from 'yup'
import { markKinds } from '#core/pressure/marks'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { markRun } from '../../../../../services/pack-runs'

const body = yup.object({
  id: uuid().required(),
  kind: yup.string().oneOf(markKinds).required(),
  at: yup.string().datetime().required(),
})

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/mark',
  { body },
  async ({ db, actor, params, body }) => {
    await markRun(db, actor, params.pack!, { ...body, at: new Date(body.at) })
    return { ok: true }
  },
)
