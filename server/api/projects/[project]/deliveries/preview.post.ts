import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { previewNote } from '../../../../services/deliveries'
import { projectRoute } from '../../../../http/route'

const body = yup.object({ order: uuid().required(), csv: yup.string().max(4_000_000).required() })

export default projectRoute('POST /api/projects/:project/deliveries/preview', { body, limit: 5_000_000 }, async ({ db, actor, body }) => {
  const { noteNumber, rows, faults, lines } = await previewNote(db, actor, body.order, body.csv)
  return { noteNumber, rows, faults, lines }
})
