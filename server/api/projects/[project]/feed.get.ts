import { createEventStream } from 'h3'
import { watchFeed } from '../../../services/feed'
import { projectRoute } from '../../../http/route'

export default projectRoute('GET /api/projects/:project/feed', {}, async ({ event, db, project, actor }) => {
  const stream = createEventStream(event)
  const stop = await watchFeed(db, project.id, (rows) => {
    const mine = actor.crew ? rows.filter((r) => r.crew === null || r.crew === actor.crew) : rows
    if (mine.length > 0) void stream.push(JSON.stringify(mine))
  })
  // A comment now and then keeps proxies from closing a quiet stream.
  const beat = setInterval(() => void stream.push({ event: 'beat', data: '' }), 20_000)
  stream.onClosed(() => {
    stop()
    clearInterval(beat)
  })
  void stream.push({ event: 'open', data: '' })
  return stream.send()
})
