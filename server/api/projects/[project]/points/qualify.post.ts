import * as yup from 'yup'
import { qualifyModes } from '#core/crew/qualification'
import { forgetKnown, projectRoute } from '../../../../http/route'
import { setQualifyMode } from '../../../../services/qualified'

const body = yup.object({
  procedure: yup.string().max(60).required(),
  mode: yup.string().oneOf(qualifyModes).nullable().default(null),
  reason: yup.string().trim().min(1).max(2000).required(),
})

export default projectRoute(
  'POST /api/projects/:project/points/qualify',
  { body },
  async ({ db, project, actor, body }) => {
    await setQualifyMode(db, project, actor, body)
    forgetKnown()
    return { ok: true }
  },
)
