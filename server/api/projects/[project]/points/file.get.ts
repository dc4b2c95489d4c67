import { setHeaders } from 'h3'
import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { csvReply } from '../../../../http/reply'
import { projectRoute } from '../../../../http/route'
import { planCsv, planFile } from '../../../../services/plan-paper'

const query = yup.object({
  line: uuid(),
  crew: uuid(),
  day: yup.string().max(10),
  as: yup
    .string()
    .oneOf(['csv', 'xlsx', 'pdf'] as const)
    .default('csv'),
})
const types = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pdf: 'application/pdf',
}

export default projectRoute(
  'GET /api/projects/:project/points/file',
  { query },
  async ({ event, db, project, query: { line = null, crew = null, day, as } }) => {
    const where = { line, crew, day }
    if (as === 'csv') return csvReply(event, 'inspection-plan', await planCsv(db, project, where))
    setHeaders(event, {
      'content-type': types[as],
      'content-disposition': `${as === 'pdf' ? 'inline' : 'attachment'}; filename="inspection-plan.${as}"`,
    })
    return planFile(db, project, where, as)
  },
)
