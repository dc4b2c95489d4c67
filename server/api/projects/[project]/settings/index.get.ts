import { instrumentsOf } from '../../../../db/instruments'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/settings', {}, async ({ db, project }) => ({
  rule: project.settings.rule,
  instruments: await instrumentsOf(db, project.id),
}))
