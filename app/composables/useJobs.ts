import { ref } from 'vue'
import { useSession } from '~/stores/session'

interface OpenJob {
  id: string
  reason: 'rule' | 'calibration' | 'lot'
  total: number
  done: number
}

/** What may have asked for many subjects to be judged anew. */
const ASKING = ['project', 'instrument', 'lot']
/** Looked at again after so many ms, as long as something is being worked. */
const AGAIN = 1000

/**
 * What the server works at in the background: looked for when the record says that something may have
 * been asked for, and followed until it is done.
 */
export function useJobs(finished: () => void) {
  const session = useSession()
  const open = ref<OpenJob[]>([])
  let timer: ReturnType<typeof setTimeout> | undefined
  async function look() {
    clearTimeout(timer)
    const before = open.value.length
    open.value = await api<OpenJob[]>(`${session.base}/jobs`).catch(() => [])
    if (open.value.length > 0) timer = setTimeout(look, AGAIN)
    else if (before > 0) finished()
  }
  onMounted(look)
  onBeforeUnmount(() => clearTimeout(timer))
  useFeed(session.projectKey, (rows) => rows.some((r) => ASKING.includes(r.subjectType)) && void look())
  return { open, look }
}
