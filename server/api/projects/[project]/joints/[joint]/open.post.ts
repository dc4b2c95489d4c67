import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { openJointWith } from '../../../../../services/opening'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  upstream: uuid().nullable(),
  downstream: uuid().nullable(),
  fitting: uuid().nullable(),
  facts: yup.object(),
})

export default projectRoute(
  'POST /api/projects/:project/joints/:joint/open',
  { body },
  async ({ db, project, actor, params, body }) => {
    await openJointWith(db, project, actor, params.joint!, {
      ...body,
      facts: (body.facts ?? {}) as Record<string, unknown>,
    })
    return { ok: true }
  },
)
