import { ref, watch } from 'vue'

/**
 * The step at hand stands in the address: Back, a reload and a link keep it. A step that a person
 * chooses is a place to come back to; one that opens by itself takes the place of the one answered.
 *
 * @param aside when true, the address is left alone: a dry run stands inside another page
 */
export function useStepAddress(aside: () => boolean) {
  const route = useRoute()
  const router = useRouter()
  const named = () => (typeof route.query.step === 'string' ? route.query.step : null)
  const current = ref<string | null>(aside() ? null : named())
  const address = (step: string) => ({ path: route.path, query: { ...route.query, step } })
  watch(named, (step) => {
    if (!aside() && step) current.value = step
  })
  return {
    current,
    go(step: string) {
      if (step === current.value) return
      current.value = step
      if (!aside()) void router.push(address(step))
    },
    goOn(step: string) {
      current.value = step
      if (!aside() && named() !== step) void router.replace(address(step))
    },
  }
}
