import { acceptRest } from '../../../../../services/deliveries'
import { projectRoute } from '../../../../../http/route'

export default projectRoute('POST /api/projects/:project/deliveries/:delivery/accept', {}, async ({ db, actor, params }) => ({ accepted: await acceptRest(db, actor, params.delivery!) }))
