import { listBody } from '../../../../../http/plan-inputs'
import { projectRoute } from '../../../../../http/route'
import { previewList } from '../../../../../services/lists'

export default projectRoute(
  'POST /api/projects/:project/lists/:list/preview',
  { body: listBody, limit: 9_000_000 },
  ({ db, project, actor, params, body }) =>
    previewList(db, project, actor, params.list!, {
      file: body.file,
      row: body.row as Record<string, string> | null,
    }),
)
