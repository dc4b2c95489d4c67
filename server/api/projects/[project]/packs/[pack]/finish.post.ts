import { finishRun } from '../../../../../services/packs'
import { projectRoute } from '../../../../../http/route'

export default projectRoute('POST /api/projects/:project/packs/:pack/finish', {}, async ({ db, actor, params }) => ({ verdict: (await finishRun(db, actor, params.pack!)).verdict }))
