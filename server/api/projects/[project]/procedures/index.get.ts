import { proceduresOf } from '../../../../db/projects'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/procedures', {}, async ({ db, project }) => (await proceduresOf(db, project.id)).map(({ source: _source, ...row }) => row))
