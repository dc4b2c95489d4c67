import { procedureOf, procedureRecord } from '../../../../../services/procedures'
import { projectRoute } from '../../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/procedures/:procedure',
  {},
  async ({ db, project, params }) => ({
    ...(await procedureOf(db, project.id, params.procedure!)),
    record: await procedureRecord(db, params.procedure!),
  }),
)
