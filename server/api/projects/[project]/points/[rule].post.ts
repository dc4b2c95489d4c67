import * as yup from 'yup'
import { forgetKnown, projectRoute } from '../../../../http/route'
import { reviewPoint } from '../../../../services/points'

const body = yup.object({
  accepted: yup.boolean().required(),
  reason: yup.string().trim().max(400).default(''),
})

export default projectRoute(
  'POST /api/projects/:project/points/:rule',
  { body },
  async ({ db, project, actor, params, body }) => {
    const done = await reviewPoint(db, project, actor, params.rule!, body)
    forgetKnown()
    return done
  },
)
