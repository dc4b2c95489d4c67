import * as yup from 'yup'
import { newEntrySchema, type EntryKind } from '#core/record/entry'
import { Problem } from '#core/problem'
import { recordAtJoint } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'

const SIGNED_OFF = ['release', 'refusal', 'waiver', 'decision']
const body = yup.object({ entries: yup.array().of(newEntrySchema).min(1).max(200).required() })

export default projectRoute('POST /api/projects/:project/joints/:joint/entries', { body }, async ({ db, project, actor, params, body }) => {
  // Sign-offs ask for the PIN again and have a route of their own.
  if (body.entries.some((e) => SIGNED_OFF.includes(e.kind))) throw new Problem('bad-kind', 'A sign-off is not recorded this way.', 'kind')
  const entries = await recordAtJoint(db, project, actor, params.joint!, body.entries.map((e) => ({ ...e, kind: e.kind as EntryKind, payload: e.payload as Record<string, unknown>, recordedAt: new Date(e.recordedAt) })))
  return { seq: entries.length, head: entries.at(-1)?.hash ?? null }
})
