import * as yup from 'yup'
import { planFile } from '../../../../http/plan-inputs'
import { projectRoute } from '../../../../http/route'
import { readLineFile } from '../../../../services/lines'

const body = yup.object({ file: planFile, which: yup.number().integer().min(0).nullable().default(null) })

export default projectRoute(
  'POST /api/projects/:project/lines/read',
  { body, limit: 9_000_000 },
  ({ body }) => readLineFile(body.file, body.which),
)
