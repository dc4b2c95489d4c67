import * as yup from 'yup'
import { confirmSecret } from '../../../../../services/sessions'
import { causes } from '#core/ncr/causes'
import { disposeNcr } from '../../../../../services/ncrs'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  secret: yup.string().min(1).max(200).required(),
  disposition: yup
    .string()
    .oneOf(['rework', 'repair', 'use-as-is', 'return', 'scrap'] as const)
    .required(),
  cause: yup.string().oneOf(causes),
  reason: yup.string().trim().min(1).max(2000).required(),
  due: yup.string().max(10).nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs/:ncr/disposition',
  { body },
  async ({ db, actor, params, body }) => {
    const { secret, ...said } = body
    await confirmSecret(db, actor.person, secret)
    await disposeNcr(db, actor, params.ncr!, said)
    return { ok: true }
  },
)
