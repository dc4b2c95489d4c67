import * as yup from 'yup'
import { settleJob } from '../../../../../services/jobs'
import { projectRoute } from '../../../../../http/route'
import { quarantineLot } from '../../../../../services/lots'

const body = yup.object({
  on: yup.boolean().required(),
  reason: yup.string().trim().min(1).max(400).required(),
})

export default projectRoute(
  'POST /api/projects/:project/lots/:lot/quarantine',
  { body },
  async ({ db, project, actor, params, body }) => {
    const { job } = await quarantineLot(db, project, actor, params.lot!, body.on, body.reason)
    await settleJob(db, project.id, job)
    return { ok: true }
  },
)
