import { drain } from '~/device/sender'
import { followWorker } from '~/device/worker'

/**
 * Registers the worker that keeps the application on the device: when the first view has been shown and
 * the browser has nothing else to do. A new version waits, and is asked for where nothing is being typed.
 */
export default defineNuxtPlugin(() => {
  if (!('serviceWorker' in navigator) || import.meta.dev) return
  const register = () =>
    void navigator.serviceWorker
      .register('/sw.js')
      .then((registration) => followWorker(registration, () => void drain()))
      .catch(() => undefined)
  const idle = () =>
    'requestIdleCallback' in window
      ? requestIdleCallback(register, { timeout: 10_000 })
      : setTimeout(register, 3000)
  if (document.readyState === 'complete') idle()
  else window.addEventListener('load', idle, { once: true })
})
