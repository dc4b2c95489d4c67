import * as yup from 'yup'
import { columnMapping, FILE_LIMIT, sentFile } from '../../../../http/inputs'
import { projectRoute } from '../../../../http/route'
import { previewOrders } from '../../../../services/orders'

const body = yup.object({ file: sentFile().nonNullable().required(), mapping: columnMapping() })

export default projectRoute(
  'POST /api/projects/:project/orders/preview',
  { body, limit: FILE_LIMIT },
  async ({ db, actor, body }) => previewOrders(db, actor, body.file, body.mapping),
)
