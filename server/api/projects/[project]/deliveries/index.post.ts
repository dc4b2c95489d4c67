import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { importNote } from '../../../../services/deliveries'
import { projectRoute } from '../../../../http/route'

const body = yup.object({ order: uuid().required(), csv: yup.string().max(4_000_000).required(), number: yup.string().trim().max(60).default('') })

export default projectRoute('POST /api/projects/:project/deliveries', { body, limit: 5_000_000 }, async ({ db, actor, body }) => ({ id: await importNote(db, actor, body.order, body.csv, body.number) }))
