/**
 * One thing sent at a time: whether it is on its way, and what was wrong with which field.
 *
 * @param failed what is said when something else than a refusal came between
 */
export function useSending(failed = 'This was not done.') {
  const busy = ref(false)
  const fault = ref<ApiProblem | null>(null)
  /** what is wrong, in words */
  const words = computed(() => fault.value?.message ?? '')
  /** what is wrong with a field, or nothing */
  const at = (field: string) => (fault.value?.field === field ? fault.value.message : '')
  /** what is wrong with none of the fields that are shown */
  const besides = (fields: readonly string[]) =>
    fault.value && !fields.includes(fault.value.field ?? '') ? fault.value.message : ''
  /** says what is wanting before anything is sent */
  const want = (message: string) => void (fault.value = new ApiProblem('wanting', message, null, 0))

  /** @returns what the server said, or null when it refused */
  async function send<T>(act: () => Promise<T>): Promise<T | null> {
    busy.value = true
    fault.value = null
    try {
      return await act()
    } catch (error) {
      fault.value = problemOf(error, failed)
      return null
    } finally {
      busy.value = false
    }
  }
  return { busy, fault, words, at, besides, want, send, clear: () => void (fault.value = null) }
}
