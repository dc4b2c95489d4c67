import { openJobs } from '../../../db/jobs'
import { projectRoute } from '../../../http/route'

/** What is being worked in the background, and how far it has come. */
export default projectRoute('GET /api/projects/:project/jobs', {}, async ({ db, project }) =>
  (await openJobs(db, project.id)).map(({ id, reason, total, done, state }) => ({
    id,
    reason,
    total,
    done,
    state,
  })),
)
