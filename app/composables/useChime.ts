import { onBeforeUnmount, ref, watch, type Ref } from 'vue'

const KEY = 'vet-line-chime'

/**
 * Two short tones and a buzz when something has come due, where the device can; off until a person turns
 * it on.
 */
export function useChime(due: Ref<string[]>) {
  const on = ref(localStorage.getItem(KEY) === 'on')
  const known = new Set<string>()
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
  const turn = (now: boolean) => {
    on.value = now
    localStorage.setItem(KEY, now ? 'on' : 'off')
    // Heard once at the touch that turns it on: browsers give sound only then.
    if (now) ring()
  }
  watch(
    due,
    (keys, before) => {
      const fresh = keys.filter((k) => !known.has(k))
      for (const k of keys) known.add(k)
      if (before !== undefined && on.value && fresh.length > 0) ring()
    },
    { immediate: true },
  )
  onBeforeUnmount(() => void context?.close())
  return { on, turn }
}
