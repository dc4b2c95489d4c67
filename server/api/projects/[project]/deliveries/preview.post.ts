import * as yup from 'yup'
import { FILE_LIMIT, noteSource } from '../../../../http/inputs'
import { projectRoute } from '../../../../http/route'
import { previewNote } from '../../../../services/note-reading'

export default projectRoute(
  'POST /api/projects/:project/deliveries/preview',
  { body: yup.object(noteSource), limit: FILE_LIMIT },
  async ({ db, project, actor, body }) => previewNote(db, project, actor, body.order, body),
)
