import { lastNumberOf } from '../../../db/devices'
import { projectRoute } from '../../../http/route'
import { deviceOf } from '../../../http/session'

/** The last running number that arrived from this device; its stamp comes with the reply. */
export default projectRoute('GET /api/projects/:project/device', {}, async ({ event, db, actor }) => {
  const device = deviceOf(event)
  return { number: device === null ? 0 : await lastNumberOf(db, device, actor.person) }
})
