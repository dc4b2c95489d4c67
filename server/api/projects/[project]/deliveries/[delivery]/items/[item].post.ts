import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../../http/route'
import { inspectItem } from '../../../../../../services/inspection'
import type { ItemReadings } from '#core/delivery/inspection'

const length = () => yup.number().min(0).max(30).required()
const readings = yup
  .mixed<ItemReadings>()
  .default({})
  .test(
    'readings',
    'readings must be numbers, or go / no-go, by what was measured',
    (v) =>
      v === undefined ||
      (typeof v === 'object' &&
        v !== null &&
        !Array.isArray(v) &&
        Object.keys(v).length <= 20 &&
        Object.values(v).every(
          (r) =>
            r === 'go' ||
            r === 'no-go' ||
            (Array.isArray(r) &&
              r.length <= 20 &&
              r.every((n) => typeof n === 'number' && Number.isFinite(n))),
        )),
  )
const body = yup.object({
  outcome: yup
    .string()
    .oneOf(['accepted', 'remark', 'quarantined', 'returned'] as const)
    .required(),
  remark: yup.string().trim().max(400).nullable().default(null),
  damage: yup
    .object({
      clock: yup.number().min(0).max(12).required(),
      fromEnd: length(),
      length: length(),
      depth: yup.number().min(0).max(0.5).required(),
    })
    .nullable()
    .default(null),
  readings,
  instrument: uuid().nullable().default(null),
  photos: yup.array().of(uuid().required()).max(6).default([]),
})

export default projectRoute(
  'POST /api/projects/:project/deliveries/:delivery/items/:item',
  { body },
  async ({ db, project, actor, params, body }) => {
    await inspectItem(db, project, actor, params.delivery!, params.item!, {
      ...body,
      remark: body.remark || null,
    })
    return { ok: true }
  },
)
