import * as yup from 'yup'
import { timing } from '#core/record/entry'
import { projectRoute } from '../../../../http/route'
import { currentSession, deviceOf } from '../../../../http/session'
import { deviceHeard } from '../../../../services/devices'

const body = yup.object({
  waiting: yup.number().integer().min(0).max(1_000_000).required(),
  since: timing.recordedAt.notRequired().nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/device/heard',
  { body },
  async ({ event, db, actor, body }) => {
    const device = deviceOf(event)
    if (!device) return { ended: false }
    const told = { waiting: body.waiting, since: body.since ? new Date(body.since) : null }
    return deviceHeard(db, actor, device, told, await currentSession(event, db))
  },
)
