import * as yup from 'yup'
import { projectBody } from '../../../../http/plan-inputs'
import { forgetKnown, projectRoute } from '../../../../http/route'
import { changeProject } from '../../../../services/projects'

const body = projectBody.shape({ reason: yup.string().trim().min(1).max(2000).required() })

export default projectRoute(
  'POST /api/projects/:project/settings/project',
  { body },
  async ({ db, project, actor, body }) => {
    await changeProject(db, project, actor, body)
    forgetKnown()
    return { done: true }
  },
)
