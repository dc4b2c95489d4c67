import * as yup from 'yup'
import { projectRoute } from '../../../../http/route'
import { adoptSamples } from '../../../../services/samples'

const body = yup.object({ keys: yup.array().of(yup.string().max(60).required()).min(1).max(60).required() })

export default projectRoute(
  'POST /api/projects/:project/samples/adopt',
  { body },
  async ({ db, project, actor, body }) => ({ adopted: await adoptSamples(db, project, actor, body.keys) }),
)
