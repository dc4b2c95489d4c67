/**
 * Registers the worker that keeps the application on the device: when the first view has been shown and
 * the browser has nothing else to do. A new version takes over when this one is closed or reloaded.
 */
export default defineNuxtPlugin(() => {
  if (!('serviceWorker' in navigator) || import.meta.dev) return
  const register = () => void navigator.serviceWorker.register('/sw.js').catch(() => undefined)
  const idle = () =>
    'requestIdleCallback' in window
      ? requestIdleCallback(register, { timeout: 10_000 })
      : setTimeout(register, 3000)
  if (document.readyState === 'complete') idle()
  else window.addEventListener('load', idle, { once: true })
})
