import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import type { EntryKind } from '#core/record/entry'
import { recordAtReach } from '../../../../../services/reaches'
import { projectRoute } from '../../../../../http/route'

const entry = yup.object({ id: uuid().required(), kind: yup.string().oneOf(['lift', 'density', 'correction', 'remark'] as const).required(), payload: yup.object().required(), recordedAt: yup.string().datetime().required() })
const body = yup.object({ entries: yup.array().of(entry).min(1).max(100).required() })

export default projectRoute('POST /api/projects/:project/reaches/:reach/entries', { body }, async ({ db, actor, params, body }) => {
  await recordAtReach(db, actor, params.reach!, body.entries.map((e) => ({ ...e, kind: e.kind as EntryKind, payload: e.payload as Record<string, unknown>, recordedAt: new Date(e.recordedAt) })))
  return { ok: true }
})
