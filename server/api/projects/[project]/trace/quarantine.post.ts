import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../http/route'
import { quarantine } from '../../../../services/trace-quarantine'
import { originKinds } from '../../../../services/tracing'

const body = yup.object({
  origin: yup
    .object({
      kind: yup
        .string()
        .oneOf([...originKinds])
        .required(),
      value: yup.string().min(1).max(80).required(),
      since: yup.number().integer().min(0).nullable().default(null),
    })
    .required(),
  reason: yup.string().trim().min(1).max(400).required(),
  joints: yup
    .array()
    .of(yup.object({ joint: uuid().required(), ncr: uuid().required() }))
    .max(50)
    .required(),
  stock: yup.boolean().default(false),
})

export default projectRoute(
  'POST /api/projects/:project/trace/quarantine',
  { body },
  async ({ db, project, actor, body }) => quarantine(db, project, actor, body),
)
