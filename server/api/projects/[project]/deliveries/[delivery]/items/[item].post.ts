import * as yup from 'yup'
import { inspectItem } from '../../../../../../services/deliveries'
import { projectRoute } from '../../../../../../http/route'

const length = () => yup.number().min(0).max(30).required()
const body = yup.object({
  outcome: yup.string().oneOf(['accepted', 'remark', 'quarantined', 'returned'] as const).required(), remark: yup.string().trim().max(400).nullable().default(null),
  damage: yup.object({ clock: yup.number().min(0).max(12).required(), fromEnd: length(), length: length(), depth: yup.number().min(0).max(0.5).required() }).nullable().default(null),
})

export default projectRoute('POST /api/projects/:project/deliveries/:delivery/items/:item', { body }, async ({ db, actor, params, body }) => {
  await inspectItem(db, actor, params.delivery!, params.item!, { outcome: body.outcome, remark: body.remark || null, damage: body.damage })
  return { ok: true }
})
