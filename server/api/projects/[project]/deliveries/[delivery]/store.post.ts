import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { storeItems } from '../../../../../services/yard'

const body = yup.object({ place: uuid().required(), item: yup.string().max(80).nullable().default(null) })

export default projectRoute(
  'POST /api/projects/:project/deliveries/:delivery/store',
  { body },
  async ({ db, actor, params, body }) => ({
    items: await storeItems(db, actor, body.place, { delivery: params.delivery!, item: body.item }),
  }),
)
