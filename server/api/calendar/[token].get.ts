import { getRequestIP, getRequestURL, getRouterParam, setHeaders } from 'h3'
import { openRoute, personOn } from '../../http/route'
import { calendarFeed, ownerOf } from '../../services/calendar'

/** Read by calendar programs, which sign in nowhere: the secret address is what lets them in. */
export default openRoute('GET /api/calendar/:token', {}, async ({ event, db }) => {
  const token = (getRouterParam(event, 'token') ?? '').replace(/\.ics$/, '')
  const { key, person } = await ownerOf(db, token, getRequestIP(event) ?? '')
  const { project, actor } = await personOn(db, key, person)
  setHeaders(event, { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'no-store' })
  return calendarFeed(db, project, actor, getRequestURL(event).origin)
})
