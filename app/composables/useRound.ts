import type { Round } from '#core/round/plan'
import { travelTimes, type Going, type Place } from '#core/round/travel'
import type { roundStops, RoundStop } from '../../server/services/round'
import { useSession } from '~/stores/session'

type Reply = Awaited<ReturnType<typeof roundStops>>

export interface Visit {
  stop: RoundStop
  /** ms */
  arrive: number
  begin: number
}

/**
 * The round of whoever asks: who waits, in which order to go, and when. It is ordered anew in a worker
 * whenever something that it rests on changes, and says what changed.
 */
export function useRound(settings: {
  me: () => Place | null
  going: () => Going
  /** s at each stop */
  service: () => number
  pinned: () => string | null
  without: () => readonly string[]
}) {
  const session = useSession()
  const { data, problem, loading, load } = useLoad(() => api<Reply>(`${session.base}/round`))
  const visits = shallowRef<Visit[]>([])
  const round = shallowRef<Round | null>(null)
  /** what changed since the order before */
  const changed = ref('')
  let worker: Worker | null = null
  let asked = 0

  const stops = computed(() => (data.value?.stops ?? []).filter((s) => !settings.without().includes(s.key)))
  const first = computed(() => stops.value.find((s) => s.key === settings.pinned()) ?? null)

  function ask() {
    const me = settings.me()
    if (!me || !worker) return
    const now = Math.floor(Date.now() / 1000)
    const pin = first.value
    // A stop that is pinned is gone to first, and the round begins there.
    const rest = pin ? stops.value.filter((s) => s !== pin) : stops.value
    const service = settings.service()
    const way = pin ? travelTimes([me, pin], settings.going())[0]![1]! : 0
    const pinBegin = pin ? Math.max(now + way, pin.ready / 1000) : 0
    asked++
    const travel = travelTimes([pin ?? me, ...rest], settings.going())
    pending.set(asked, { rest, pin, pinArrive: now + way, pinBegin })
    worker.postMessage({
      asked,
      request: {
        at: pin ? pinBegin + service : now,
        stops: rest.map((s) => ({ key: s.key, ready: s.ready / 1000, service, weight: s.weight })),
        travel,
      },
    })
  }
  const pending = new Map<
    number,
    { rest: RoundStop[]; pin: RoundStop | null; pinArrive: number; pinBegin: number }
  >()

  function take({ data: reply }: MessageEvent<{ asked: number; round: Round }>) {
    const question = pending.get(reply.asked)
    pending.delete(reply.asked)
    if (!question || reply.asked !== asked) return
    const byKey = new Map(question.rest.map((s) => [s.key, s]))
    const list = reply.round.order.map((key, i): Visit => ({
      stop: byKey.get(key)!,
      arrive: reply.round.arrive[i]! * 1000,
      begin: reply.round.begin[i]! * 1000,
    }))
    const fresh = question.pin
      ? [{ stop: question.pin, arrive: question.pinArrive * 1000, begin: question.pinBegin * 1000 }, ...list]
      : list
    changed.value = difference(visits.value, fresh)
    visits.value = fresh
    round.value = reply.round
  }

  onMounted(() => {
    worker = new Worker(new URL('../workers/round.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = take
    void load()
  })
  onUnmounted(() => worker?.terminate())
  useFeed(session.projectKey, () => void load())
  watch([stops, settings.me, settings.going, settings.service, settings.pinned], () => ask(), { deep: true })
  return { data, problem, loading, load, visits, round, changed, stops }
}

/** In a sentence, what is otherwise than before; nothing for the first order, or where it stays. */
function difference(before: readonly Visit[], after: readonly Visit[]): string {
  if (before.length === 0) return ''
  const names = (list: readonly Visit[]) => list.map((v) => `${v.stop.name}, ${v.stop.title}`)
  const [was, is] = [names(before), names(after)]
  const came = is.filter((n) => !was.includes(n))
  const went = was.filter((n) => !is.includes(n))
  if (came.length > 0) return `New: ${came.join('; ')}.`
  if (went.length > 0) return `Done: ${went.join('; ')}.`
  return was.join() === is.join() ? '' : 'The order has changed.'
}
