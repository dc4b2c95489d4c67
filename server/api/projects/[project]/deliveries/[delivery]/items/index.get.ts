import * as yup from 'yup'
import { paging } from '../../../../../../http/inputs'
import { projectRoute } from '../../../../../../http/route'
import { itemsOfNote } from '../../../../../../services/delivery-sheet'

const query = yup.object({
  ...paging,
  show: yup
    .string()
    .oneOf(['all', 'waiting', 'sampled', 'bad'] as const)
    .default('all'),
})

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery/items',
  { query },
  async ({ db, actor, params, query }) => itemsOfNote(db, actor, params.delivery!, query),
)
