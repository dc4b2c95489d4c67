import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../http/route'
import { addCrew } from '../../../../services/people'

const body = yup.object({
  id: uuid().required(),
  name: yup.string().strict().trim().min(1).max(80).required(),
})

export default projectRoute(
  'POST /api/projects/:project/crews',
  { body },
  async ({ db, project, actor, body }) => {
    await addCrew(db, project, actor, body)
    return { id: body.id }
  },
)
