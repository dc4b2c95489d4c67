import * as yup from 'yup'
import { offeredItems } from '../../../../../services/opening'
import { projectRoute } from '../../../../../http/route'

const query = yup.object({
  place: yup
    .string()
    .oneOf(['upstream', 'downstream', 'fitting'] as const)
    .required(),
  search: yup.string().max(80).default(''),
})

export default projectRoute(
  'GET /api/projects/:project/joints/:joint/items',
  { query },
  async ({ db, project, actor, params, query }) =>
    offeredItems(db, project, actor, params.joint!, query.place, query.search),
)
