import { getHeader, readRawBody } from 'h3'
import { uuidv7 } from 'uuidv7'
import { Problem } from '#core/problem'
import { insertFile } from '../../../../db/files'
import { projectRoute } from '../../../../http/route'
import { cleanPicture } from '../../../../services/pictures'
import { sha256 } from '../../../../services/record'

const LIMIT = 8 * 1024 * 1024

export default projectRoute(
  'POST /api/projects/:project/files',
  { limit: LIMIT },
  async ({ event, db, project, actor }) => {
    const bytes = await readRawBody(event, false)
    const mime = (getHeader(event, 'content-type') ?? '').split(';')[0]!
    const clean = bytes ? await cleanPicture(bytes, mime) : null
    if (!clean) throw new Problem('bad-file', 'A photo must be a whole JPEG, PNG or WebP picture.', 'file')
    const id = uuidv7()
    const digest = sha256(clean)
    await insertFile(db, project.id, actor.person, {
      id,
      name: `photo.${mime.split('/')[1]}`,
      mime,
      sha256: digest,
      bytes: clean,
    })
    return { id, sha256: digest }
  },
)
