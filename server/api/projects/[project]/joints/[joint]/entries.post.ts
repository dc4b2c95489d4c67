import * as yup from 'yup'
import { newEntrySchema } from '#core/checks/sent'
import { Problem } from '#core/problem'
import { recordAtJoint } from '../../../../../services/joints'
import { projectRoute } from '../../../../../http/route'
import { sentEntries } from '../../../../../http/sent'

const SIGNED_OFF = ['release', 'refusal', 'waiver', 'decision']
const body = yup.object({ entries: yup.array().of(newEntrySchema).min(1).max(200).required() })

export default projectRoute(
  'POST /api/projects/:project/joints/:joint/entries',
  { body },
  async ({ event, db, project, actor, params, body }) => {
    // Sign-offs ask for the PIN again and have a route of their own.
    if (body.entries.some((e) => SIGNED_OFF.includes(e.kind)))
      throw new Problem('bad-kind', 'A sign-off is not recorded this way.', 'kind')
    const entries = await recordAtJoint(
      db,
      project,
      actor,
      params.joint!,
      sentEntries(event, actor.person, body.entries),
    )
    return { seq: entries.length, head: entries.at(-1)?.hash ?? null }
  },
)
