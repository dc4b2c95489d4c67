<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** A hose end from the side, and the buckles seen along it: where the bands go depends on the bore. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, flag, strong, len } = useDrawn(props)
const inner = computed(() => flag('inner'))
const opposite = computed(() => flag('opposite'))
const [onInner, onGrips, onBuckles] = [strong('inner'), strong('grips'), strong('buckles')]
const C = { x: 306, y: 222 }
const R = 62
const at = (angle: number, radius: number) => ({
  x: C.x + radius * Math.sin((angle * Math.PI) / 180),
  y: C.y - radius * Math.cos((angle * Math.PI) / 180),
})
/**
 * grips at 3 and 9; outer buckles between them, opposite each other or both at the top; the sealing
 * buckle at the bottom
 */
const buckles = computed(() => [
  { key: 'far', angle: opposite.value ? 0 : -16, name: 'far', colour: 'var(--fitting)' },
  { key: 'near', angle: opposite.value ? 180 : 16, name: 'near', colour: 'var(--fitting)' },
  ...(inner.value ? [{ key: 'seal', angle: 180, name: 'sealing', colour: 'var(--held)' }] : []),
])
</script>

<template>
  <svg
    viewBox="0 0 404 330"
    class="drawing"
    role="img"
    :aria-label="
      `Bore ${len(num('bore'))}: outer buckles ` +
      `${opposite ? 'opposite each other' : 'on the same side, opposite the sealing buckle'}`
    "
  >
    <rect class="body" x="96" y="38" width="320" height="84" />
    <path class="fitting" d="M-4 54H88V34H100V126H88V106H-4Z" />
    <rect x="100" y="58" width="190" height="44" fill="var(--pipe-dark)" opacity="0.5" />
    <rect
      v-if="inner"
      x="188"
      y="34"
      width="16"
      height="92"
      :fill="'var(--held)'"
      :stroke="onInner ? 'var(--line)' : 'none'"
      stroke-width="4"
    />
    <g
      v-for="y in [28, 116]"
      :key="y"
      :stroke="onGrips ? 'var(--line)' : 'var(--ink)'"
      fill="none"
      stroke-width="5"
    >
      <path :d="`M86 ${y + 8}H256`" />
      <path :d="`M86 ${y + 8}v${y < 60 ? 14 : -14}`" />
    </g>
    <rect
      v-for="x in [132, 236]"
      :key="x"
      :x="x"
      y="26"
      width="14"
      height="108"
      class="fitting"
      :stroke="onBuckles ? 'var(--line)' : 'none'"
      stroke-width="3"
    />
    <text x="6" y="150" class="name">stem and collar</text>
    <text x="139" y="150" text-anchor="middle" class="name">near</text>
    <text x="243" y="150" text-anchor="middle" class="name">far</text>
    <text v-if="inner" x="192" y="168" text-anchor="middle" class="name">sealing</text>
    <circle :cx="C.x" :cy="C.y" :r="R" class="body" />
    <circle :cx="C.x" :cy="C.y" :r="R - 20" fill="var(--paper)" stroke="var(--ink)" />
    <g v-for="a in [90, 270]" :key="a">
      <circle
        :cx="at(a, R + 6).x"
        :cy="at(a, R + 6).y"
        r="7"
        fill="none"
        :stroke="onGrips ? 'var(--line)' : 'var(--ink)'"
        stroke-width="4"
      />
    </g>
    <g v-for="b in buckles" :key="b.key">
      <rect
        :x="at(b.angle, R + 8).x - 11"
        :y="at(b.angle, R + 8).y - 8"
        width="22"
        height="16"
        :fill="b.colour"
        :stroke="onBuckles || (onInner && b.key === 'seal') ? 'var(--line)' : 'none'"
        stroke-width="3"
      />
    </g>
    <text :x="C.x" :y="C.y + 5" text-anchor="middle" class="name">end on</text>
    <text x="8" y="212" class="sum">bore {{ mm(num('bore')) }}</text>
    <text x="8" y="238">{{ opposite ? 'Buckles opposite' : 'Buckles same side,' }}</text>
    <text x="8" y="258">{{ opposite ? 'each other' : 'sealing one opposite' }}</text>
    <text x="8" y="288" class="name">grips at 3 and 9</text>
  </svg>
</template>
