import * as yup from 'yup'
import { settleJob } from '../../../../services/jobs'
import { forgetKnown, projectRoute } from '../../../../http/route'
import { setNotice } from '../../../../services/points'

/** At most four weeks, in seconds. */
const MOST = 28 * 86_400
const body = yup.object({
  notice: yup.number().strict().integer().min(0).max(MOST).nullable().default(null),
  reason: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/points/notice',
  { body },
  async ({ db, project, actor, body }) => {
    const { job, total } = await setNotice(db, project, actor, body)
    forgetKnown()
    return { judged: total, state: await settleJob(db, project.id, job) }
  },
)
