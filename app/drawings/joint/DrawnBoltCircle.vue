<script setup lang="ts">
import { showBare } from '#core/quantity/show'
import { boltSequence } from '#core/calculators/joint'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** Bolts numbered clockwise from the top. Tap through the order: the next bolt is marked, pass by pass. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, word, show } = useDrawn(props)
const C = 202
const M = 150
const R = 104
const stages = [0.3, 0.6, 1]
const count = computed(() => Math.round(num('bolts') ?? 0))
const order = computed<number[]>(() => {
  if (count.value < 3) return []
  const pattern = ['opposed', 'star', 'circular'].includes(word('pattern')) ? word('pattern') : 'opposed'
  const known = pattern !== 'circular' && count.value % 2 !== 0 ? 'circular' : pattern
  return (
    boltSequence.compute({ count: count.value, pattern: known, stages: [1] }).outputs.order as number[][]
  )[0]!
})
const at = ref(0)
watch(order, () => (at.value = 0))
const pass = computed(() => Math.floor(at.value / Math.max(1, order.value.length)))
const inPass = computed(() => at.value % Math.max(1, order.value.length))
const done = computed(() => pass.value >= stages.length)
const next = computed(() => (done.value ? null : order.value[inPass.value]))
const torque = computed(() => num('torque'))
const target = computed(() =>
  torque.value === null ? null : torque.value * (stages[Math.min(pass.value, stages.length - 1)] ?? 1),
)
const bolts = computed(() =>
  order.value.map((_b, i) => {
    const angle = (i * 2 * Math.PI) / order.value.length
    const turn = order.value.indexOf(i + 1)
    const far = R + 30
    return {
      number: i + 1,
      x: C + R * Math.sin(angle),
      y: M - R * Math.cos(angle),
      lx: C + far * Math.sin(angle),
      ly: M - far * Math.cos(angle) + 5,
      done: done.value || turn < inPass.value,
      turn: turn + 1,
      read: props.readings?.[i] ?? null,
    }
  }),
)
const tap = (bolt: number) => {
  if (bolt === next.value) at.value++
}
const size = computed(() => (count.value > 16 ? 11 : 17))
</script>

<template>
  <div>
    <svg
      viewBox="0 0 404 300"
      class="drawing"
      role="group"
      :aria-label="`${count} bolts, ${word('pattern')} order`"
    >
      <circle :cx="C" :cy="M" :r="R + 8" class="body" />
      <circle :cx="C" :cy="M" r="52" fill="var(--paper)" stroke="var(--ink)" stroke-width="1.5" />
      <g
        v-for="b in bolts"
        :key="b.number"
        class="tap"
        role="button"
        :tabindex="b.number === next ? 0 : -1"
        :aria-label="`Bolt ${b.number}, turn ${b.turn}${b.number === next ? ', next' : ''}`"
        @click="tap(b.number)"
        @keydown.enter.stop.prevent="tap(b.number)"
      >
        <circle class="target" :cx="b.x" :cy="b.y" r="26" />
        <circle
          :cx="b.x"
          :cy="b.y"
          :r="size"
          :fill="b.number === next ? 'var(--line)' : b.done ? 'var(--accepted)' : 'var(--card)'"
          stroke="var(--ink)"
          stroke-width="1.5"
        />
        <text
          :x="b.x"
          :y="b.y + 5"
          text-anchor="middle"
          :fill="b.number === next || b.done ? 'var(--on-line)' : 'var(--ink)'"
          :style="{ fill: b.number === next || b.done ? 'var(--card)' : 'var(--ink)' }"
          font-weight="650"
        >
          {{ b.number }}
        </text>
        <text v-if="b.read !== null" :x="b.lx" :y="b.ly" text-anchor="middle" class="name">
          {{ showBare(b.read, 'N·m', 3) }}
        </text>
      </g>
      <text :x="C" :y="M - 6" text-anchor="middle" class="name">
        {{ done ? 'all passes' : `pass ${pass + 1} of ${stages.length}` }}
      </text>
      <text :x="C" :y="M + 22" text-anchor="middle" class="sum">{{ done ? 'done' : `bolt ${next}` }}</text>
    </svg>
    <p class="sum-line">
      <span v-if="target !== null"
        >{{ show(target, 'torque', 'N·m', 3) }} this pass, {{ show(torque!, 'torque', 'N·m', 3) }} at the
        last</span
      >
      <ElButton v-if="at > 0" size="small" @click="at--">Back one</ElButton>
    </p>
  </div>
</template>

<style scoped>
.sum-line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 44px;
  margin: 0;
  font-weight: 600;
}
.sum-line :deep(.el-button) {
  min-height: 44px;
}
</style>
