import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { raiseNcr } from '../../../../services/ncrs'
import { projectRoute } from '../../../../http/route'

const body = yup.object({
  id: uuid().required(),
  subjectType: yup
    .string()
    .oneOf(['joint', 'reach', 'pack'] as const)
    .required(),
  subject: uuid().required(),
  step: yup.string().max(60).nullable().default(null),
  photo: uuid().nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/ncrs',
  { body },
  async ({ db, project, actor, body }) => ({ id: await raiseNcr(db, project, actor, body) }),
)
