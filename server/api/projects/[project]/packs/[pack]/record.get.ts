import { setHeaders } from 'h3'
import { projectRoute } from '../../../../../http/route'
import { packOf, recordFileOf } from '../../../../../services/pack-sheet'

export default projectRoute(
  'GET /api/projects/:project/packs/:pack/record',
  {},
  async ({ event, db, actor, params }) => {
    const pack = await packOf(db, actor, params.pack!)
    setHeaders(event, {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="${pack.number}-record.json"`,
    })
    return Buffer.from(JSON.stringify(await recordFileOf(db, pack)))
  },
)
