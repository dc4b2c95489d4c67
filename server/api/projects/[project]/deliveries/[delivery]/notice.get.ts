import { setHeaders } from 'h3'
import { projectRoute } from '../../../../../http/route'
import { supplierNotice } from '../../../../../services/supplier-notice'

export default projectRoute(
  'GET /api/projects/:project/deliveries/:delivery/notice',
  {},
  async ({ event, db, project, actor, params }) => {
    const { name, pdf } = await supplierNotice(db, project, actor, params.delivery!)
    setHeaders(event, {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="${name.replace(/[^\w.-]/g, '-')}-notice.pdf"`,
    })
    return pdf
  },
)
