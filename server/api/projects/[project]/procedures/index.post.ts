import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { draftProcedure } from '../../../../services/procedures'
import { projectRoute } from '../../../../http/route'

const body = yup.object({ id: uuid().required(), source: yup.string().min(1).max(400_000).required() })

export default projectRoute(
  'POST /api/projects/:project/procedures',
  { body, limit: 1024 * 1024 },
  async ({ db, actor, body }) => ({ id: await draftProcedure(db, actor, body.id, body.source) }),
)
