import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../http/route'
import { addPlace } from '../../../../services/yard'

const degrees = () => yup.number().min(-60).max(90).nullable().default(null)
const body = yup.object({
  id: uuid().required(),
  name: yup.string().trim().min(1).max(80).required(),
  kind: yup
    .string()
    .oneOf(['plastic pipe', 'rigid pipe', 'fittings', 'gaskets', 'compounds'] as const)
    .required(),
  min: degrees(),
  max: degrees(),
  everyDays: yup.number().integer().min(1).max(90).default(7),
})

export default projectRoute('POST /api/projects/:project/yard', { body }, async ({ db, actor, body }) => {
  await addPlace(db, actor, body)
  return { id: body.id }
})
