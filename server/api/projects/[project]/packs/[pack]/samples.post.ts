import * as yup from 'yup'
import { pushSamples } from '../../../../../services/pack-runs'
import { projectRoute } from '../../../../../http/route'

const sample = yup.object({
  at: yup.string().datetime().required(),
  pressure: yup.number().min(-1e5).max(1e9).required(),
  pipe: yup.number().min(-60).max(120).nullable().default(null),
  air: yup.number().min(-60).max(120).nullable().default(null),
  makeup: yup.number().min(0).nullable().default(null),
})
const body = yup.object({ samples: yup.array().of(sample).min(1).max(2000).required() })

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/samples',
  { body },
  async ({ db, actor, params, body }) => {
    await pushSamples(
      db,
      actor,
      params.pack!,
      body.samples.map((s) => ({ ...s, at: new Date(s.at) })),
    )
    return { ok: true }
  },
)
