import * as yup from 'yup'
import { confirmSecret } from '../../../../services/sessions'
import { settleJob } from '../../../../services/jobs'
import { changeRule } from '../../../../services/settings'
import { forgetKnown, projectRoute } from '../../../../http/route'

const body = yup.object({
  rule: yup
    .string()
    .oneOf(['guarded', 'simple'] as const)
    .required(),
  reason: yup.string().trim().min(1).max(2000).required(),
  secret: yup.string().min(1).max(200).required(),
})

export default projectRoute(
  'POST /api/projects/:project/settings/rule',
  { body },
  async ({ db, project, actor, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    const { job, total } = await changeRule(db, project, actor, body.rule, body.reason)
    forgetKnown()
    return { judged: total, state: await settleJob(db, project.id, job) }
  },
)
