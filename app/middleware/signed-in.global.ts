import { useSession } from '../stores/session'

/** Every page but the sign-in asks who it is. */
export default defineNuxtRouteMiddleware(async (to) => {
  const session = useSession()
  if (!session.known) await session.load().catch(() => undefined)
  if (to.path === '/start') return
  if (!session.person && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { to: to.fullPath } })
  if (session.person && to.path === '/sign-in') return navigateTo('/')
  if (session.person && !session.projectKey && to.path !== '/projects') return navigateTo('/projects')
})
