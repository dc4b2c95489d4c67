import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { unmarkRun } from '../../../../../services/pack-runs'

const body = yup.object({ mark: uuid().required() })

export default projectRoute(
  'POST /api/projects/:project/packs/:pack/unmark',
  { body },
  async ({ db, actor, params, body }) => {
    await unmarkRun(db, actor, params.pack!, body.mark)
    return { ok: true }
  },
)
