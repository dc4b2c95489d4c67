import * as yup from 'yup'
import { openJointWith } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

const uuid = () => yup.string().uuid().required()
const body = yup.object({ upstream: uuid(), downstream: uuid(), fitting: uuid() })

export default projectRoute('POST /api/projects/:project/joints/:joint/open', { body }, async ({ db, project, actor, params, body }) => {
  await openJointWith(db, project, actor, params.joint!, body)
  return { ok: true }
})
