import { reactive } from 'vue'

/** Stand-ins for what the framework gives the pages: an address that can be looked at. */
const route = reactive({
  path: '/joints/1',
  params: { id: '1' } as Record<string, string>,
  query: {} as Record<string, string>,
})
interface Place {
  path?: string
  query?: Record<string, string>
}
export const visited: { how: 'push' | 'replace'; to: Place }[] = []
const go = (how: 'push' | 'replace') => (to: Place) => {
  visited.push({ how, to })
  Object.assign(route, { path: to.path ?? route.path, query: to.query ?? {} })
  return Promise.resolve()
}
export const useRoute = () => route
export const useRouter = () => ({ push: go('push'), replace: go('replace') })
export const navigateTo = (to: Place) => go('push')(to)
/** What was said to the person. */
export const said: string[] = []
export const ElMessage = ({ message }: { message: string }) => void said.push(message)
