import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../http/route'
import { pointMatrix } from '../../../../services/points'

const query = yup.object({ line: uuid(), crew: uuid(), day: yup.string().max(10) })

export default projectRoute('GET /api/projects/:project/points', { query }, ({ db, project, query }) =>
  pointMatrix(db, project, { line: query.line ?? null, crew: query.crew ?? null, day: query.day }),
)
