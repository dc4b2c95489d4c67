import * as yup from 'yup'
import { projectRoute } from '../../../../../../../http/route'
import { drawnSignature } from '../../../../../../../http/inputs'
import { confirmSecret } from '../../../../../../../services/sessions'
import { signShift } from '../../../../../../../services/shift-reports'

const body = drawnSignature.shape({
  report: yup
    .string()
    .matches(/^[0-9a-f]{64}$/)
    .required(),
  until: yup.number().strict().integer().min(0).required(),
  weather: yup.string().trim().max(200).default(''),
  rain: yup.boolean().strict().nullable().default(null),
  words: yup.string().trim().max(2000).default(''),
})

export default projectRoute(
  'POST /api/projects/:project/crews/:crew/shifts/:day/sign',
  { body },
  async ({ db, project, actor, params, body: { secret, ...signing } }) => {
    await confirmSecret(db, actor.person, secret)
    return { state: await signShift(db, project, actor, params.crew!, params.day!, signing) }
  },
)
