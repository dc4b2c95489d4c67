import { setHeaders } from 'h3'
import { Problem } from '#core/problem'
import { findFile } from '../../../../db/site'
import { projectRoute } from '../../../../http/route'

export default projectRoute('GET /api/projects/:project/files/:file', {}, async ({ event, db, project, params }) => {
  const file = await findFile(db, project.id, params.file!)
  if (!file) throw new Problem('not-found', 'There is no such file.', 'file')
  setHeaders(event, { 'content-type': file.mime, 'cache-control': 'private, max-age=86400', 'content-disposition': `inline; filename="${file.name.replace(/[^\w.-]/g, '_')}"` })
  return file.bytes
})
