import { setHeaders } from 'h3'
import { visibleFile } from '../../../../services/files'
import { projectRoute } from '../../../../http/route'

export default projectRoute(
  'GET /api/projects/:project/files/:file',
  {},
  async ({ event, db, project, actor, params }) => {
    const file = await visibleFile(db, project.id, actor, params.file!)
    setHeaders(event, {
      'content-type': file.mime,
      'cache-control': 'private, max-age=86400',
      'content-disposition': `inline; filename="${file.name.replace(/[^\w.-]/g, '_')}"`,
    })
    return file.bytes
  },
)
