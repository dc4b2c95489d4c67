import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import { ApiProblem } from './useApi'

export interface Load<T> {
  data: ShallowRef<T | null>
  problem: Ref<ApiProblem | null>
  loading: Ref<boolean>
  load: () => Promise<void>
}

/** Loads something and keeps what was there when loading again fails. */
export function useLoad<T>(read: () => Promise<T>): Load<T> {
  const data = shallowRef<T | null>(null) as ShallowRef<T | null>
  const problem = ref<ApiProblem | null>(null)
  const loading = ref(false)
  let latest = 0
  const load = async () => {
    const mine = ++latest
    loading.value = true
    try {
      const fresh = await read()
      if (mine !== latest) return
      data.value = fresh
      problem.value = null
    } catch (error) {
      if (mine === latest)
        problem.value =
          error instanceof ApiProblem
            ? error
            : new ApiProblem('internal', 'This could not be shown.', null, 0)
      if (!(error instanceof ApiProblem)) console.error(error)
    } finally {
      if (mine === latest) loading.value = false
    }
  }
  return { data, problem, loading, load }
}
