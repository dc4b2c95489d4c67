import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { csvReply } from '../../../../http/reply'
import { projectRoute } from '../../../../http/route'
import { pointsCsv } from '../../../../services/points'

const query = yup.object({ line: uuid(), crew: uuid(), day: yup.string().max(10) })

export default projectRoute(
  'GET /api/projects/:project/points/file',
  { query },
  async ({ event, db, project, query }) => {
    const where = { line: query.line ?? null, crew: query.crew ?? null, day: query.day }
    return csvReply(event, 'inspection-plan', await pointsCsv(db, project, where))
  },
)
