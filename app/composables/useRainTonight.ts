import { useLocalStorage } from '@vueuse/core'

/** Whether rain is expected this night: said once a day on this device; undefined while nobody has said it today. */
export function useRainTonight() {
  const times = useTimes()
  const kept = useLocalStorage<{ day: string; expected: boolean | null }>('vet-line-rain', {
    day: '',
    expected: null,
  })
  return computed<boolean | undefined>({
    get: () => (kept.value.day === times.today() ? (kept.value.expected ?? undefined) : undefined),
    set: (expected) => (kept.value = { day: times.today(), expected: expected ?? null }),
  })
}
