import { projectRoute } from '../../../../../http/route'
import { placeSheet } from '../../../../../services/yard'

export default projectRoute('GET /api/projects/:project/yard/:place', {}, async ({ db, actor, params }) =>
  placeSheet(db, actor, params.place!),
)
