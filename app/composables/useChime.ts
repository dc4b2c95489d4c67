import { onBeforeUnmount, ref, watch, type Ref } from 'vue'

const KEY = 'vet-line-chime'

/** Something that a person wants to be called for. */
export interface Call {
  key: string
  /** what it says when the page is out of sight */
  says: string
}

const mayNotify = () => typeof Notification !== 'undefined' && Notification.permission === 'granted'

/**
 * Calls a person when something has come due: two short tones, a buzz, and a notice of the browser while the
 * page is out of sight, each where the device can and allows it; off until a person turns it on.
 *
 * @param due null while it has not been read: what is there when it is, is on the screen already
 */
export function useChime(due: Ref<Call[] | null>) {
  const on = ref(localStorage.getItem(KEY) === 'on')
  const known = new Set<string>()
  let read = false
  let context: AudioContext | null = null
  const ring = () => {
    if ('vibrate' in navigator) navigator.vibrate([180, 120, 180])
    try {
      context ??= new AudioContext()
      for (const [at, pitch] of [
        [0, 880],
        [0.28, 660],
      ] as const) {
        const tone = context.createOscillator()
        const volume = context.createGain()
        volume.gain.value = 0.18
        tone.frequency.value = pitch
        tone.connect(volume).connect(context.destination)
        tone.start(context.currentTime + at)
        tone.stop(context.currentTime + at + 0.2)
      }
    } catch {
      // A device without sound still buzzes and shows.
    }
  }
  const notify = (calls: readonly Call[]) => {
    if (document.visibilityState === 'visible' || !mayNotify()) return
    for (const { key, says } of calls)
      try {
        new Notification('Vet Line', { body: says, tag: key })
      } catch {
        // Some browsers of phones take notices from the installed application only.
      }
  }
  const turn = (now: boolean) => {
    on.value = now
    localStorage.setItem(KEY, now ? 'on' : 'off')
    if (!now) return
    // Heard once at the touch that turns it on, and asked then: browsers allow either only at a touch.
    ring()
    if (typeof Notification !== 'undefined' && Notification.permission === 'default')
      void Notification.requestPermission()
  }
  watch(
    due,
    (calls) => {
      if (calls === null) return
      const fresh = calls.filter((c) => !known.has(c.key))
      for (const c of calls) known.add(c.key)
      if (!read || !on.value || fresh.length === 0) return void (read = true)
      ring()
      notify(fresh)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => void context?.close())
  return { on, turn }
}
