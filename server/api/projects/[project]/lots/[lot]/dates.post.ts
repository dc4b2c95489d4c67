import * as yup from 'yup'
import { dayOrNull } from '../../../../../http/inputs'
import { projectRoute } from '../../../../../http/route'
import { dateLot } from '../../../../../services/lots'

const body = yup.object({ made: dayOrNull(), expires: dayOrNull(), opened: dayOrNull() })

export default projectRoute(
  'POST /api/projects/:project/lots/:lot/dates',
  { body },
  async ({ db, project, actor, params, body }) => ({
    judgedAnew: await dateLot(db, project, actor, params.lot!, body),
  }),
)
