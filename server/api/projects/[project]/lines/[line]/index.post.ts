import * as yup from 'yup'
import { lineBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { changeLine } from '../../../../../services/lines'

const body = lineBody.shape({ reason: yup.string().trim().min(1).max(2000).required() })

export default projectRoute(
  'POST /api/projects/:project/lines/:line',
  { body, limit: 8_000_000 },
  async ({ db, project, actor, params, body }) => {
    await changeLine(db, project, actor, params.line!, body)
    return { done: true }
  },
)
