import * as yup from 'yup'
import { uuid } from '#core/record/uuid'
import { confirmSecret } from '../../../../../services/sessions'
import { recordAtJoint } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

const body = yup.object({
  id: uuid().required(),
  step: yup.string().max(60).required(),
  kind: yup
    .string()
    .oneOf(['release', 'refusal', 'waiver', 'decision'] as const)
    .required(),
  verdict: yup.string().oneOf(['accept', 'reject', 'again'] as const),
  stands: uuid(),
  reason: yup.string().trim().max(2000).default(''),
  secret: yup.string().min(1).max(200).required(),
  /** a waiver for a lot past its date names it */
  lot: yup.string().max(80),
  /** steps that a waiver of a hold point leaves open */
  waives: yup.array().of(yup.string().max(60).required()).max(200),
})

export default projectRoute(
  'POST /api/projects/:project/joints/:joint/release',
  { body },
  async ({ db, project, actor, params, body }) => {
    await confirmSecret(db, actor.person, body.secret)
    const { kind, reason, verdict, stands, lot, waives } = body
    const payloads = {
      release: reason ? { note: reason } : {},
      refusal: { reason },
      decision: { verdict, reason, ...(stands ? { stands } : {}) },
      waiver: { reason, ...(lot ? { lot } : {}), ...(waives?.length ? { waives } : {}) },
    }
    const entries = await recordAtJoint(db, project, actor, params.joint!, [
      { id: body.id, kind, step: body.step, payload: payloads[kind], recordedAt: new Date() },
    ])
    return { seq: entries.length }
  },
)
