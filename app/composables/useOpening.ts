import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, reactive, ref } from 'vue'
import { startOf, typedFact } from '#core/procedure/facts'
import type { ItemPlace } from '#core/procedure/opening'
import type { Piece } from '../../server/services/openings'
import type { JointReply } from './useWorksheet'
import { openHere, piecesHere } from '~/device/opening'
import { canWait } from '~/device/waiting'
import { useSession } from '~/stores/session'

const isOffLine = (error: unknown) => error instanceof ApiProblem && error.code === 'off-line' && canWait()

/** What is chosen and typed to open a joint; without a signal from what the device has along. */
export function useOpening(sheet: JointReply, done: () => void) {
  const { base } = useSession()
  const { joint } = sheet
  const opening = sheet.opening!
  const { places } = opening
  const offered = reactive<Record<ItemPlace, Piece[]>>({ upstream: [], downstream: [], fitting: [] })
  const chosen = reactive<Record<ItemPlace, string>>({ upstream: '', downstream: '', fitting: '' })
  const typed = reactive<Record<string, string | boolean>>(
    Object.fromEntries(opening.facts.map((f) => [f.key, startOf(f)])),
  )
  const fault = ref<ApiProblem | null>(null)
  const busy = ref(false)

  async function offer(place: ItemPlace, search = '') {
    try {
      offered[place] = await api<Piece[]>(`${base}/joints/${joint.id}/items`, { query: { place, search } })
    } catch (error) {
      if (!isOffLine(error)) throw error
      offered[place] = await piecesHere(base, joint.system, place, search)
    }
  }
  onMounted(() => Promise.all(places.map((p) => offer(p))).catch((e: ApiProblem) => (fault.value = e)))

  /** What the crew typed at the joint before, while it differs from what stands here. */
  const like = computed(() => {
    const { before } = opening
    const facts = Object.fromEntries(
      opening.facts
        .filter((f) => before?.facts[f.key] !== undefined)
        .map((f) => [f.key, typedFact(f, before!.facts[f.key]!)]),
    )
    const differs = Object.entries(facts).some(([key, v]) => typed[key] !== v)
    return before && differs ? { number: before.number, facts } : null
  })
  const complete = computed(
    () => places.every((p) => chosen[p]) && opening.facts.every((f) => f.optional || typed[f.key] !== ''),
  )
  const shownAt = computed(() =>
    fault.value?.field ? [...places, ...opening.facts.map((f) => f.key)].includes(fault.value.field) : false,
  )

  async function open() {
    busy.value = true
    fault.value = null
    const items = Object.fromEntries(places.map((p) => [p, chosen[p]]))
    const facts = withUnits(typed, opening.facts)
    try {
      await api(`${base}/joints/${joint.id}/open`, { body: { ...items, facts } }).catch((error: unknown) => {
        if (!isOffLine(error)) throw error
        return openHere(base, sheet, items, facts, deviceNow())
      })
      done()
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error
      fault.value = error
    } finally {
      busy.value = false
    }
  }
  return {
    places,
    offered,
    chosen,
    typed,
    fault,
    shownAt,
    busy,
    complete,
    like,
    takeOver: () => Object.assign(typed, like.value!.facts),
    search: useDebounceFn(offer, 150),
    open,
  }
}
