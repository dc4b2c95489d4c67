import { useElementSize } from '@vueuse/core'
import type { Ref } from 'vue'

/** Room for the names of the lanes, px. */
export const LANE_NAMES = 96
const MARGIN = 16
/** The least that is looked at, m. */
const CLOSEST = 24

/** The stations of a line that are looked at: moved by dragging, narrowed by wheel and buttons. */
export function useStripView(
  box: Ref<HTMLElement | null>,
  line: Ref<{ from: number; to: number } | null>,
  tapped: (station: number) => void,
) {
  const { width } = useElementSize(box)
  const view = ref<[number, number]>([0, 1])
  const whole = () => line.value && (view.value = [line.value.from, line.value.to])
  watch(() => line.value?.from !== undefined && line.value, whole, { immediate: true })

  const room = computed(() => Math.max(1, width.value - LANE_NAMES - MARGIN))
  const x = computed(() => {
    const [from, to] = view.value
    const scale = room.value / (to - from)
    return (station: number) => LANE_NAMES + (station - from) * scale
  })
  const stationAt = (px: number) =>
    view.value[0] + ((px - LANE_NAMES) / room.value) * (view.value[1] - view.value[0])

  function clamp([from, to]: [number, number]): [number, number] {
    const l = line.value!
    const span = Math.min(l.to - l.from, Math.max(CLOSEST, to - from))
    const start = Math.min(l.to - span, Math.max(l.from, (from + to) / 2 - span / 2))
    return [start, start + span]
  }
  const zoom = (factor: number, at = (view.value[0] + view.value[1]) / 2) =>
    (view.value = clamp([at - (at - view.value[0]) * factor, at + (view.value[1] - at) * factor]))
  const around = (station: number, half = (view.value[1] - view.value[0]) / 2) =>
    (view.value = clamp([station - half, station + half]))

  let drag: { x: number; view: [number, number]; moved: boolean } | null = null
  let wanted: [number, number] | null = null
  /** A pointer says more than a screen shows: it is followed once a frame. */
  function follow(to: [number, number]) {
    if (!wanted)
      requestAnimationFrame(() => {
        if (wanted) view.value = wanted
        wanted = null
      })
    wanted = clamp(to)
  }
  const hand = {
    down: (e: PointerEvent) => void (drag = { x: e.clientX, view: [...view.value], moved: false }),
    move(e: PointerEvent) {
      if (!drag) return
      const dx = e.clientX - drag.x
      if (Math.abs(dx) > 6) drag.moved = true
      const perPixel = (drag.view[1] - drag.view[0]) / room.value
      if (drag.moved) follow([drag.view[0] - dx * perPixel, drag.view[1] - dx * perPixel])
    },
    up(e: PointerEvent) {
      const tap = drag && !drag.moved
      drag = null
      if (tap && box.value) tapped(stationAt(e.clientX - box.value.getBoundingClientRect().left))
    },
    leave: () => void (drag = null),
    wheel: (e: WheelEvent) => zoom(e.deltaY > 0 ? 1.25 : 0.8, stationAt(e.offsetX)),
  }
  return { width, view, x, zoom, around, whole, hand }
}
