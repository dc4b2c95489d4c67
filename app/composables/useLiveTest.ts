import type { packLive } from '../../server/services/pack-view'
import type { Sample } from '#core/pressure/log'
import { thin } from '#core/pressure/thin'

type Live = Awaited<ReturnType<typeof packLive>>
export type LiveRun = NonNullable<Live['running']>

const EVERY = 1000

/**
 * A running test as it goes: asks for what arrived since it last asked, and puts it in its place. Rests while
 * nobody looks.
 *
 * @param path of the pack
 * @param ended called once when the test no longer runs
 */
export function useLiveTest(path: string, running: Ref<boolean>, ended: () => void) {
  const run = shallowRef<LiveRun | null>(null)
  const marks = shallowRef<Live['marks']>([])
  /** what is drawn: every reading, thinned when there are very many */
  const trace = shallowRef<Sample[]>([])
  const quiet = ref(false)
  let all = new Map<number, Sample>()
  let begun: number | null = null
  let since: number | null = null
  let timer: ReturnType<typeof setTimeout> | null = null
  let gone = false

  const forget = () => {
    all = new Map()
    since = null
    begun = null
  }
  function take(now: LiveRun) {
    // An earlier reading came in: all others are counted from it.
    if (begun !== null && now.startedAt !== begun) {
      forget()
      return
    }
    begun = now.startedAt
    for (const s of now.samples) all.set(s.t, s)
    since = now.received
    if (now.samples.length > 0) trace.value = thin([...all.values()].sort((a, b) => a.t - b.t))
  }
  async function look() {
    try {
      const live = await api<Live>(`${path}/live`, since === null ? {} : { query: { since: String(since) } })
      quiet.value = false
      marks.value = live.marks
      run.value = live.running
      if (live.running) take(live.running)
      else ended()
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error
      quiet.value = true
    }
  }
  async function go() {
    timer = null
    if (document.visibilityState === 'visible') await look()
    if (!gone && running.value) timer = setTimeout(() => void go(), EVERY)
  }
  watch(
    running,
    (on) => {
      if (!on) {
        forget()
        run.value = null
        trace.value = []
      } else if (!timer) void go()
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    gone = true
    if (timer) clearTimeout(timer)
  })
  return { run, marks, trace, quiet, look }
}
