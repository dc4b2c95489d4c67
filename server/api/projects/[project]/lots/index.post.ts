import * as yup from 'yup'
import { dayOrNull } from '../../../../http/inputs'
import { projectRoute } from '../../../../http/route'
import { registerLot } from '../../../../services/lots'

const body = yup.object({
  lot: yup.string().trim().min(1).max(80).required(),
  item: yup.string().max(80).nullable().default(null),
  made: dayOrNull(),
  expires: dayOrNull(),
  opened: dayOrNull(),
})

export default projectRoute(
  'POST /api/projects/:project/lots',
  { body },
  async ({ db, project, actor, body }) => ({ id: await registerLot(db, project, actor, body) }),
)
