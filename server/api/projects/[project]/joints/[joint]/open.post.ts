import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { openJointWith } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({ upstream: uuid().required(), downstream: uuid().required(), fitting: uuid().required() })

export default projectRoute('POST /api/projects/:project/joints/:joint/open', { body }, async ({ db, project, actor, params, body }) => {
  await openJointWith(db, project, actor, params.joint!, body)
  return { ok: true }
})
