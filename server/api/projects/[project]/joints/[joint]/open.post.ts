import * as yup from 'yup'
import { timing } from '#core/record/entry'
import { uuid } from '#core/record/uuid'
import { openJointWith } from '../../../../../services/opening'
import { projectRoute } from '../../../../../http/route'
import { deviceOf, stampTime } from '../../../../../http/session'

const body = yup.object({
  upstream: uuid().nullable(),
  downstream: uuid().nullable(),
  fitting: uuid().nullable(),
  facts: yup.object(),
  /** of a joint that was opened without a signal */
  away: yup
    .object({
      id: uuid().required(),
      at: timing.recordedAt,
      stamp: timing.stamp,
      moved: timing.moved,
      procedure: uuid().required(),
    })
    .default(undefined),
})

export default projectRoute(
  'POST /api/projects/:project/joints/:joint/open',
  { body },
  async ({ event, db, project, actor, params, body }) => {
    const { away, facts, ...places } = body
    // A clock that was moved shows nothing of when.
    const stampAt = away && !away.moved ? stampTime(event, actor.person, away.stamp ?? null) : null
    await openJointWith(db, project, actor, params.joint!, {
      ...places,
      facts: (facts ?? {}) as Record<string, unknown>,
      ...(away && {
        away: {
          ...away,
          at: Date.parse(away.at),
          stampAt: stampAt?.getTime() ?? null,
          device: deviceOf(event),
        },
      }),
    })
    return { ok: true }
  },
)
