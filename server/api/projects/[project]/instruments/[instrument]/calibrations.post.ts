import * as yup from 'yup'
import { addCalibration } from '../../../../../services/instruments'
import { settleJob } from '../../../../../services/jobs'
import { projectRoute } from '../../../../../http/route'

const day = () =>
  yup
    .string()
    .strict()
    .matches(/^\d{4}-\d\d-\d\d$/, '${path} must be a date such as 2026-03-09')
    .required()
const body = yup.object({
  from: day(),
  until: day(),
  certificate: yup.string().strict().trim().max(80).default(''),
})

export default projectRoute(
  'POST /api/projects/:project/instruments/:instrument/calibrations',
  { body },
  async ({ db, project, actor, params, body }) => {
    const { job, total } = await addCalibration(db, project, actor, params.instrument!, body)
    return { judged: total, state: await settleJob(db, project.id, job) }
  },
)
