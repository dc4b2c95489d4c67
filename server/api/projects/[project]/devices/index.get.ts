import { projectRoute } from '../../../../http/route'
import { devices } from '../../../../services/devices'

export default projectRoute('GET /api/projects/:project/devices', {}, ({ db, project }) =>
  devices(db, project),
)
