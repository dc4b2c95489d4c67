import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../http/route'
import { releaseTogether } from '../../../services/holds'
import { confirmSecret } from '../../../services/sessions'

const body = yup.object({
  secret: yup.string().min(1).max(200).required(),
  note: yup.string().trim().max(400).default(''),
  holds: yup
    .array()
    .of(
      yup
        .object({
          id: uuid().required(),
          joint: uuid().required(),
          step: yup.string().max(60).required(),
        })
        .required(),
    )
    .min(1)
    .max(50)
    .required(),
})

export default projectRoute(
  'POST /api/projects/:project/holds',
  { body },
  async ({ db, project, actor, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    return { released: await releaseTogether(db, project, actor, body.holds, body.note) }
  },
)
