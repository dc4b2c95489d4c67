import { projectRoute } from '../../../../http/route'
import { peopleAndCrews } from '../../../../services/people'

export default projectRoute('GET /api/projects/:project/people', {}, ({ db, project }) =>
  peopleAndCrews(db, project),
)
