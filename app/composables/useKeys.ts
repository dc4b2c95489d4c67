import { useEventListener } from '@vueuse/core'

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
/** A dialog that is fading away no longer takes keys: somebody quick has gone on already. */
const inDialog = () =>
  document.querySelector(
    '.el-overlay:not([style*="display: none"]):not(.dialog-fade-leave-active) .el-dialog',
  ) !== null

/**
 * Single-key shortcuts while the component lives; not while somebody types, nor behind a dialog.
 *
 * @param first they see a key before the shortcuts of what is inside, and may keep it from them
 */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>, { first = false } = {}) {
  const listen = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || inDialog()) return
    // Enter on a button is that button's own.
    if (
      event.key === 'Enter' &&
      event.target instanceof HTMLElement &&
      ['BUTTON', 'A'].includes(event.target.tagName)
    )
      return
    const action = keys[event.key]
    if (!action) return
    event.preventDefault()
    action(event)
  }
  useEventListener('keydown', listen, { capture: first })
}
