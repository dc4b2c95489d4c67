import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { confirmSecret } from '../../../../../http/session'
import { recordAtJoint } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  id: uuid().required(), step: yup.string().max(60).required(), kind: yup.string().oneOf(['release', 'refusal', 'waiver', 'decision'] as const).required(),
  verdict: yup.string().oneOf(['accept', 'reject'] as const), reason: yup.string().trim().max(2000).default(''), secret: yup.string().min(1).max(200).required(),
  /** a waiver for a lot past its date names it */
  lot: yup.string().max(80),
})

export default projectRoute('POST /api/projects/:project/joints/:joint/release', { body }, async ({ db, project, actor, params, body }) => {
  await confirmSecret(db, actor.person, body.secret)
  const payload = body.kind === 'release' ? (body.reason ? { note: body.reason } : {}) : body.kind === 'decision' ? { verdict: body.verdict, reason: body.reason } : { reason: body.reason, ...(body.kind === 'waiver' && body.lot ? { lot: body.lot } : {}) }
  const entries = await recordAtJoint(db, project, actor, params.joint!, [{ id: body.id, kind: body.kind, step: body.step, payload, recordedAt: new Date() }])
  return { seq: entries.length }
})
