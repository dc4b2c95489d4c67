import { ref, watch, type Ref } from 'vue'
import type { Mapping } from '#core/files/columns'
import type { ChosenFile } from '~/components/delivery/FileDrop.vue'

/**
 * A file looked at before anything is written: previewed again whenever the file, its columns or what it
 * is held against change.
 */
export function useImport<P extends { mapping: Mapping }>(
  ask: (file: ChosenFile, mapping: Mapping | null) => Promise<P>,
  ready: () => boolean,
  depends: Ref<unknown>[] = [],
) {
  const file = ref<ChosenFile | null>(null)
  const mapping = ref<Mapping | null>(null)
  const preview = ref<P | null>(null) as Ref<P | null>
  const fault = ref('')
  const busy = ref(false)
  let latest = 0
  async function look() {
    fault.value = ''
    const mine = ++latest
    if (!file.value || !ready()) return void (preview.value = null)
    busy.value = true
    try {
      const fresh = await ask(file.value, mapping.value)
      if (mine === latest) preview.value = fresh
    } catch (error) {
      if (mine !== latest) return
      preview.value = null
      fault.value = problemOf(error, 'The file could not be read.').message
    } finally {
      if (mine === latest) busy.value = false
    }
  }
  watch(file, () => {
    mapping.value = null
    preview.value = null
    void look()
  })
  watch(depends, look)
  const remap = (next: Mapping) => {
    mapping.value = next
    void look()
  }
  async function bring<T>(act: () => Promise<T>): Promise<T | null> {
    busy.value = true
    fault.value = ''
    try {
      return await act()
    } catch (error) {
      fault.value = problemOf(error, 'Nothing was imported.').message
      return null
    } finally {
      busy.value = false
    }
  }
  return { file, mapping, preview, fault, busy, remap, bring }
}
