import { ref } from 'vue'

/** A newer version of the application lies on this device and waits. */
export const newVersion = ref<ServiceWorker | null>(null)
const SEND = 'send'

/**
 * Follows the worker that keeps the application on the device: a newer one waits until somebody says that
 * it may take over.
 *
 * @param send what is done when the browser says that there is a signal again
 */
export function followWorker(registration: ServiceWorkerRegistration, send: () => void): void {
  const look = () => {
    // The first one has nobody to wait for.
    if (registration.waiting && navigator.serviceWorker.controller) newVersion.value = registration.waiting
  }
  look()
  registration.addEventListener('updatefound', () =>
    registration.installing?.addEventListener('statechange', look),
  )
  navigator.serviceWorker.addEventListener('message', ({ data }) => data === SEND && send())
}

/** Something is typed and not recorded: a step's reading, a form, a dialog. */
export const isTyping = (root: ParentNode = document): boolean =>
  [...root.querySelectorAll<HTMLInputElement>('input:not([readonly]), textarea')].some(
    (field) =>
      field === document.activeElement ||
      (!['checkbox', 'radio', 'range', 'button', 'submit'].includes(field.type) && field.value !== ''),
  )

/** The newer version takes over, and the page begins anew with it. */
export function takeNewVersion(worker: ServiceWorker, begin = () => location.reload()): void {
  navigator.serviceWorker.addEventListener('controllerchange', begin, { once: true })
  worker.postMessage('take-over')
}

/** Asks the browser to say when there is a signal, also while nobody looks; where it cannot, the queue tries. */
export async function askForSignal(): Promise<void> {
  const registration = await navigator.serviceWorker?.getRegistration().catch(() => undefined)
  const { sync } = (registration ?? {}) as { sync?: { register(tag: string): Promise<void> } }
  await sync?.register(SEND).catch(() => undefined)
}
