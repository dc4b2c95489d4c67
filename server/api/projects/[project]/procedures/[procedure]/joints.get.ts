import * as yup from 'yup'
import { judgeOptions } from '../../../../../services/judging'
import { jointsToRejudge, procedureOf } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

const query = yup.object({ after: yup.string().max(36).default('00000000-0000-0000-0000-000000000000') })

export default projectRoute(
  'GET /api/projects/:project/procedures/:procedure/joints',
  { query },
  async ({ db, project, params, query }) => {
    const { key } = await procedureOf(db, project.id, params.procedure!)
    return {
      options: await judgeOptions(db, project, key),
      joints: await jointsToRejudge(db, project.id, key, query.after),
    }
  },
)
