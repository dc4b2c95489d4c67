import * as yup from 'yup'
import { dayOrNull } from '../../../../../http/inputs'
import { settleJob } from '../../../../../services/jobs'
import { projectRoute } from '../../../../../http/route'
import { dateLot } from '../../../../../services/lots'

const body = yup.object({ made: dayOrNull(), expires: dayOrNull(), opened: dayOrNull() })

export default projectRoute(
  'POST /api/projects/:project/lots/:lot/dates',
  { body },
  async ({ db, project, actor, params, body }) => {
    const { job, total } = await dateLot(db, project, actor, params.lot!, body)
    return { judgedAnew: total, state: await settleJob(db, project.id, job) }
  },
)
