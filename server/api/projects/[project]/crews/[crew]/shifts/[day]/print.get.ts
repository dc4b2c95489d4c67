import { setHeaders } from 'h3'
import { projectRoute } from '../../../../../../../http/route'
import { runHeavy } from '../../../../../../../services/heavy/run'
import { shiftPage } from '../../../../../../../services/shift-reports'

export default projectRoute(
  'GET /api/projects/:project/crews/:crew/shifts/:day/print',
  {},
  async ({ event, db, project, actor, params }) => {
    const page = await shiftPage(db, project, actor, params.crew!, params.day!)
    const pdf = await runHeavy(
      'shift',
      { page, project: { name: project.name, zone: project.zone } },
      project.settings.units,
    )
    setHeaders(event, {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="shift-${page.report.day}.pdf"`,
    })
    return Buffer.from(pdf)
  },
)
