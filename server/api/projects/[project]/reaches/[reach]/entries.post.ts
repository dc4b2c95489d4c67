import * as yup from 'yup'
import { timing } from '#core/record/entry'
import { uuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { sentEntries } from '../../../../../http/sent'
import { recordAtReach } from '../../../../../services/reaches'

const kinds = ['lift', 'density', 'correction', 'remark'] as const
const entry = yup.object({
  id: uuid().required(),
  kind: yup.string().oneOf(kinds).required(),
  payload: yup.object().required(),
  ...timing,
})
const body = yup.object({ entries: yup.array().of(entry).min(1).max(100).required() })

export default projectRoute(
  'POST /api/projects/:project/reaches/:reach/entries',
  { body },
  async ({ event, db, actor, params, body }) => {
    await recordAtReach(db, actor, params.reach!, sentEntries(event, actor.person, body.entries))
    return { ok: true }
  },
)
