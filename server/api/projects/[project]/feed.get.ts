import { createEventStream } from 'h3'
import { mayHear } from '#core/access'
import { projectRoute } from '../../../http/route'
import { tokenOf } from '../../../http/session'
import { watchFeed } from '../../../services/feed'
import { onSessionsEnded, sessionOf } from '../../../services/sessions'
import { takeStream } from '../../../services/streams'

const LOOK = 1000

export default projectRoute('GET /api/projects/:project/feed', {}, async ({ event, db, project, actor }) => {
  const token = tokenOf(event)
  const stream = createEventStream(event)
  const place = takeStream(actor.person, () => void stream.close())
  const stop = await watchFeed(db, project.id, (rows) => {
    const mine = rows.filter((r) => mayHear(actor.crew, r.subjectType, r.crew))
    if (mine.length > 0) void stream.push(JSON.stringify(mine))
  })
  // A stream lives no longer than the session that opened it, whoever ends that.
  const look = async () => {
    const session = await sessionOf(db, token).catch(() => undefined)
    if (session === null) await stream.close()
  }
  const looking = setInterval(() => void look(), LOOK)
  const forget = onSessionsEnded(() => void look())
  // A comment now and then keeps proxies from closing a quiet stream.
  const beat = setInterval(() => void stream.push({ event: 'beat', data: '' }), 20_000)
  stream.onClosed(() => {
    stop()
    forget()
    place.free()
    clearInterval(beat)
    clearInterval(looking)
  })
  void stream.push({ event: 'open', data: '' })
  return stream.send()
})
