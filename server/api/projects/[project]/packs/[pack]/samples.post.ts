import * as yup from 'yup'
import { pushSamples } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

const sample = yup.object({
  at: yup.string().datetime().required(),
  pressure: yup.number().min(-1e5).max(1e9).required(),
  temperature: yup.number().min(-60).max(120).nullable().default(null),
  makeup: yup.number().min(0).default(0),
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
