import * as yup from 'yup'
import { csvReply } from '../../../../http/reply'
import { projectRoute } from '../../../../http/route'
import { traceCsv } from '../../../../services/exports'
import { originKinds } from '../../../../services/tracing'

const query = yup.object({
  kind: yup
    .string()
    .oneOf([...originKinds])
    .required(),
  value: yup.string().min(1).max(80).required(),
  since: yup.number().integer().min(0).nullable().default(null),
})

export default projectRoute(
  'GET /api/projects/:project/trace/export',
  { query },
  async ({ event, db, actor, query }) =>
    csvReply(event, `trace-${query.kind}`, await traceCsv(db, actor, query)),
)
