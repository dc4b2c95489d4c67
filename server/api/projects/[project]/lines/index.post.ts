import { uuid } from '#core/record/uuid'
import { lineBody } from '../../../../http/plan-inputs'
import { projectRoute } from '../../../../http/route'
import { addLine } from '../../../../services/lines'

const body = lineBody.shape({ id: uuid().required() })

export default projectRoute(
  'POST /api/projects/:project/lines',
  { body, limit: 8_000_000 },
  async ({ db, project, actor, body: { id, ...typed } }) => {
    await addLine(db, project, actor, id, typed)
    return { id }
  },
)
