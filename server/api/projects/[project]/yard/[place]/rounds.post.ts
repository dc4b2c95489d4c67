import * as yup from 'yup'
import { projectRoute } from '../../../../../http/route'
import { recordRound } from '../../../../../services/yard'

const answers = yup
  .mixed<Record<string, 'yes' | 'no'>>()
  .required()
  .test(
    'answers',
    'answers must be yes or no by question',
    (v) =>
      typeof v === 'object' &&
      v !== null &&
      !Array.isArray(v) &&
      Object.keys(v).length <= 20 &&
      Object.values(v).every((a) => a === 'yes' || a === 'no'),
  )
const body = yup.object({
  answers,
  temperature: yup.number().min(-60).max(90).nullable().default(null),
  remark: yup.string().trim().max(400).nullable().default(null),
})

export default projectRoute(
  'POST /api/projects/:project/yard/:place/rounds',
  { body },
  async ({ db, actor, params, body }) => ({ findings: await recordRound(db, actor, params.place!, body) }),
)
