<script setup lang="ts">
/**
 * A dimension of a drawing: from x1 to x2 at y, with lines up to what it measures.
 * With `tap` it is a button that leads to where the value is entered.
 */
const props = withDefaults(
  defineProps<{
    x1: number
    x2: number
    y: number
    from?: number
    label: string
    strong?: boolean
    tap?: boolean
    place?: 'middle' | 'left' | 'right'
  }>(),
  { from: undefined, place: 'middle' },
)
defineEmits<{ tap: [] }>()
const low = computed(() => Math.min(props.x1, props.x2))
const high = computed(() => Math.max(props.x1, props.x2))
/** a label that would leave the drawing (404 wide) stands over its line instead */
const fits = computed(() =>
  props.place === 'right'
    ? high.value + 8 + props.label.length * 10 < 402
    : props.place === 'left'
      ? low.value - 8 - props.label.length * 10 > 2
      : true,
)
const place = computed(() => (fits.value ? props.place : 'middle'))
const at = computed(
  () =>
    ({
      left: { x: low.value - 8, anchor: 'end' },
      right: { x: high.value + 8, anchor: 'start' },
      middle: { x: (low.value + high.value) / 2, anchor: 'middle' },
    })[place.value],
)
</script>

<template>
  <g
    class="dimension"
    :class="{ strong, tap }"
    :role="tap ? 'button' : undefined"
    :tabindex="tap ? 0 : undefined"
    :aria-label="tap ? `${label}: go to where it is entered` : undefined"
    @click="tap && $emit('tap')"
    @keydown.enter.stop.prevent="tap && $emit('tap')"
  >
    <rect v-if="tap" class="target" :x="low - 30" :y="y - 24" :width="high - low + 60" height="44" />
    <path :d="`M${x1} ${from ?? y - 6}V${y + 6}M${x2} ${from ?? y - 6}V${y + 6}M${low} ${y}H${high}`" />
    <text :x="at.x" :y="place === 'middle' ? y - 6 : y + 6" :text-anchor="at.anchor">{{ label }}</text>
  </g>
</template>
