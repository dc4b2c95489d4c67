import * as yup from 'yup'
import { projectRoute } from '../../../../http/route'
import { originKinds, trace } from '../../../../services/tracing'

const query = yup.object({
  kind: yup
    .string()
    .oneOf([...originKinds])
    .required(),
  value: yup.string().min(1).max(80).required(),
  since: yup.number().integer().min(0).nullable().default(null),
})

export default projectRoute('GET /api/projects/:project/trace', { query }, async ({ db, actor, query }) =>
  trace(db, actor, query),
)
