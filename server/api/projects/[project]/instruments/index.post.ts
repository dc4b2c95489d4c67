import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { addInstrument } from '../../../../services/instruments'
import { projectRoute } from '../../../../http/route'

const words = (max: number) => yup.string().strict().trim().min(1).max(max).required()
const body = yup.object({
  id: uuid().required(),
  name: words(120),
  kind: words(60),
  quantity: words(30),
  min: words(40),
  max: words(40),
  resolution: words(40),
  uncertainty: words(40),
})

export default projectRoute(
  'POST /api/projects/:project/instruments',
  { body },
  async ({ db, project, actor, body }) => {
    await addInstrument(db, project, actor, body)
    return { id: body.id }
  },
)
