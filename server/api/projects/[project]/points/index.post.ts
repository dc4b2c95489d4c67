import * as yup from 'yup'
import { isRate, type Rate } from '#core/plan/occasions'
import { parties } from '#core/plan/points'
import { uuid } from '#core/record/uuid'
import { forgetKnown, projectRoute } from '../../../../http/route'
import { proposePoint } from '../../../../services/points'

const body = yup.object({
  procedure: yup.string().max(60).required(),
  step: yup.string().max(60).required(),
  party: yup.string().oneOf(parties).required(),
  point: yup
    .string()
    .oneOf(['H', 'W', 'S', 'R'] as const)
    .nullable()
    .default(null),
  rate: yup
    .mixed<Rate>()
    .test(
      'rate',
      'Say one in how many, up to 1000, or on what occasion.',
      (value) => value === undefined || value === null || isRate(value),
    )
    .nullable()
    .default(null),
  line: uuid().nullable().default(null),
  crew: uuid().nullable().default(null),
  from: yup.string().max(10).required(),
  until: yup.string().max(10).nullable().default(null),
  good: yup.number().strict().integer().min(1).max(100).nullable().default(null),
  reason: yup.string().trim().min(1).max(400).required(),
})

export default projectRoute(
  'POST /api/projects/:project/points',
  { body },
  async ({ db, project, actor, body }) => {
    const done = await proposePoint(db, project, actor, body)
    forgetKnown()
    return done
  },
)
