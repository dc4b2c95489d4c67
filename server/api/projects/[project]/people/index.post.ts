import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { rolesGiven } from '../../../../http/plan-inputs'
import { projectRoute } from '../../../../http/route'
import { addPerson } from '../../../../services/people'

const words = (max: number) => yup.string().strict().trim().min(1).max(max).required()
const body = yup.object({
  id: uuid().required(),
  name: words(120),
  signIn: words(60),
  roles: rolesGiven.min(1),
})

export default projectRoute('POST /api/projects/:project/people', { body }, ({ db, project, actor, body }) =>
  addPerson(db, project, actor, body),
)
