import { getHeader, readRawBody } from 'h3'
import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { Problem } from '#core/problem'
import { projectRoute } from '../../../../http/route'
import { keepPhoto } from '../../../../services/photos'

const LIMIT = 8 * 1024 * 1024
/** An id made on the device: a photo that was sent and not heard of is sent again, and is the same. */
const query = yup.object({ id: uuid() })

export default projectRoute(
  'POST /api/projects/:project/files',
  { limit: LIMIT, query },
  async ({ event, db, actor, query }) => {
    const bytes = await readRawBody(event, false)
    const mime = (getHeader(event, 'content-type') ?? '').split(';')[0]!
    if (!bytes) throw new Problem('bad-file', 'A photo must be a whole JPEG, PNG or WebP picture.', 'file')
    return keepPhoto(db, actor, { bytes, mime, id: query.id ?? null })
  },
)
