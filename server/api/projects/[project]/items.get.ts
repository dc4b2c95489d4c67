import * as yup from 'yup'
import { freeItems } from '../../../db/deliveries'
import { projectRoute } from '../../../http/route'

const query = yup.object({ place: yup.string().oneOf(['upstream', 'downstream', 'fitting'] as const).required(), search: yup.string().max(80).default('') })

export default projectRoute('GET /api/projects/:project/items', { query }, async ({ db, project, query }) => freeItems(db, project.id, query.place, query.search))
