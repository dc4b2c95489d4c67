import { projectRoute } from '../../../../http/route'
import { yard } from '../../../../services/yard'

export default projectRoute('GET /api/projects/:project/yard', {}, async ({ db, actor }) => yard(db, actor))
