import { jointSheet } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

export default projectRoute('GET /api/projects/:project/joints/:joint', {}, async ({ db, project, actor, params }) => jointSheet(db, project, actor, params.joint!))
