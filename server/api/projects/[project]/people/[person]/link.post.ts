import { projectRoute } from '../../../../../http/route'
import { newLink } from '../../../../../services/people'

export default projectRoute(
  'POST /api/projects/:project/people/:person/link',
  {},
  ({ db, project, actor, params }) => newLink(db, project, actor, params.person!),
)
