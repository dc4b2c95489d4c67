import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectBody } from '../../http/plan-inputs'
import { openRoute } from '../../http/route'
import { foundProject } from '../../services/projects'

const body = projectBody.shape({
  id: uuid().required(),
  key: yup.string().max(40).required(),
  rule: yup
    .string()
    .oneOf(['guarded', 'simple'] as const)
    .required(),
})

export default openRoute('POST /api/projects', { body }, async ({ db, person, body }) => {
  await foundProject(db, person!, body)
  return { key: body.key }
})
