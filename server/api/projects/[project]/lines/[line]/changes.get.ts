import * as yup from 'yup'
import { isUuid } from '#core/record/uuid'
import { projectRoute } from '../../../../../http/route'
import { stripChanges } from '../../../../../services/strip'

/** So many joints are told apart by id; beyond them the whole line is read again. */
const MOST = 100

const query = yup.object({
  joints: yup
    .string()
    .max(MOST * 37)
    .default('')
    .test('ids', 'joints must be ids, set apart by commas', (text) =>
      (text ?? '')
        .split(',')
        .filter(Boolean)
        .every((id) => isUuid(id)),
    ),
  spans: yup.boolean().default(false),
})

export default projectRoute(
  'GET /api/projects/:project/lines/:line/changes',
  { query },
  ({ db, project, actor, params, query: { joints, spans } }) =>
    stripChanges(db, project, actor, params.line!, { joints: joints.split(',').filter(Boolean), spans }),
)
