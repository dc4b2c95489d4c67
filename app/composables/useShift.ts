import { ref, watchEffect } from 'vue'

export type Shift = 'day' | 'night'
const KEY = 'vet-line-shift'
const stored = (): Shift => (localStorage.getItem(KEY) === 'night' ? 'night' : 'day')
const shift = ref<Shift>('day')

/** Day or night shift; kept on the device. */
export function useShift() {
  const start = () => {
    shift.value = stored()
    watchEffect(() => {
      document.documentElement.dataset.shift = shift.value
      localStorage.setItem(KEY, shift.value)
    })
  }
  return { shift, start, toggle: () => (shift.value = shift.value === 'day' ? 'night' : 'day') }
}
