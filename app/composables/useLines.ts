import { computed, watch, type Ref } from 'vue'
import { useSession } from '~/stores/session'

/** The lines that a list has something of, the chosen one first. */
export function useLinesOf(list: Ref<{ alignment: string }[] | null | undefined>) {
  const session = useSession()
  const lines = computed(() => {
    const used = new Set(list.value?.map((x) => x.alignment))
    const all = session.overview?.lines.filter((l) => used.has(l.id)) ?? []
    return [...all].sort((a, b) => Number(b.id === session.lineId) - Number(a.id === session.lineId))
  })
  return { lines }
}

/** The strip shows the line of what is open. */
export function useLineOf(alignment: () => string | undefined) {
  const session = useSession()
  watch(
    alignment,
    (line) => {
      if (line && session.lineId !== line) session.chooseLine(line)
    },
    { immediate: true },
  )
}
