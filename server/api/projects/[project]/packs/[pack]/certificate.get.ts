import { setHeaders } from 'h3'
import { projectRoute } from '../../../../../http/route'
import { runHeavy } from '../../../../../services/heavy/run'
import { packSheet } from '../../../../../services/pack-view'

export default projectRoute(
  'GET /api/projects/:project/packs/:pack/certificate',
  {},
  async ({ event, db, project, actor, params }) => {
    const sheet = await packSheet(db, project, actor, params.pack!)
    const pdf = Buffer.from(
      await runHeavy(
        'certificate',
        { sheet, project: { name: project.name, zone: project.zone } },
        project.settings.units,
      ),
    )
    setHeaders(event, {
      'content-type': 'application/pdf',
      'content-disposition': `inline; filename="${sheet.pack.number}-certificate.pdf"`,
    })
    return pdf
  },
)
