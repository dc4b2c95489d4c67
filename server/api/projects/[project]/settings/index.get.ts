import { instrumentsOf } from '../../../../db/instruments'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/settings', {}, async ({ db, project }) => ({
  rule: project.settings.rule,
  instruments: await instrumentsOf(db, project.id),
  project: {
    name: project.name,
    zone: project.zone,
    units: project.settings.units ?? 'as-written',
    codes: project.settings.codes ?? '',
    title: project.settings.title ?? '',
  },
}))
