import * as yup from 'yup'
import { planFile } from '../../../http/plan-inputs'
import { projectRoute } from '../../../http/route'
import { takeTemplate } from '../../../services/template'

const body = yup.object({ file: planFile })

export default projectRoute(
  'POST /api/projects/:project/template',
  { body, limit: 9_000_000 },
  ({ db, project, actor, body }) => takeTemplate(db, project, actor, body.file),
)
