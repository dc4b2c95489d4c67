import { jsonFileReply } from '../../../../http/reply'
import { projectRoute } from '../../../../http/route'
import { linesGeoJson } from '../../../../services/lines'

export default projectRoute('GET /api/projects/:project/lines/geojson', {}, async ({ event, db, project }) =>
  jsonFileReply(event, `${project.key}-lines`, await linesGeoJson(db, project)),
)
