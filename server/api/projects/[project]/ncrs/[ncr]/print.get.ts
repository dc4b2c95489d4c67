import { setHeaders } from 'h3'
import { projectRoute } from '../../../../../http/route'
import { ncrPdf } from '../../../../../services/ncr-paper'

export default projectRoute(
  'GET /api/projects/:project/ncrs/:ncr/print',
  {},
  async ({ event, db, project, actor, params }) => {
    const { number, pdf } = await ncrPdf(db, project, actor, params.ncr!)
    setHeaders(event, {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="${number}.pdf"`,
    })
    return pdf
  },
)
