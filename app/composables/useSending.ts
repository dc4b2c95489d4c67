/** One thing sent at a time: whether it is on its way, and what was wrong with which field. */
export function useSending() {
  const busy = ref(false)
  const fault = ref<ApiProblem | null>(null)
  /** what is wrong with a field, or nothing */
  const at = (field: string) => (fault.value?.field === field ? fault.value.message : '')
  /** what is wrong with none of the fields that are shown */
  const besides = (fields: readonly string[]) =>
    fault.value && !fields.includes(fault.value.field ?? '') ? fault.value.message : ''

  /** @returns what the server said, or null when it refused */
  async function send<T>(act: () => Promise<T>): Promise<T | null> {
    busy.value = true
    fault.value = null
    try {
      return await act()
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error
      fault.value = error
      return null
    } finally {
      busy.value = false
    }
  }
  return { busy, fault, at, besides, send }
}
