import { setHeaders } from 'h3'
import { Problem } from '#core/problem'
import { findFile } from '../../../../../db/files'
import { projectRoute } from '../../../../../http/route'
import { packOf } from '../../../../../services/pack-sheet'

export default projectRoute(
  'GET /api/projects/:project/packs/:pack/log',
  {},
  async ({ event, db, project, actor, params }) => {
    const pack = await packOf(db, actor, params.pack!)
    const file = pack.logFile ? await findFile(db, project.id, pack.logFile) : null
    if (!file) throw new Problem('not-found', 'This pack has no log yet.', 'pack')
    setHeaders(event, {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${pack.number}-log.csv"`,
    })
    return file.bytes
  },
)
