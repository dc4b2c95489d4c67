<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * A tapered thread: how far the tape goes, the turns past hand-tight as a dial, and the threads still
 * showing.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const pitch = computed(() => num('pitch') ?? 0.003)
const vanish = computed(() => num('vanish') ?? 0.09)
const turns = computed(() => num('turns') ?? 1)
const scale = computed(() => 250 / vanish.value)
const px = (m: number) => m * scale.value
const end = 330
const top = 66
const threads = computed(() =>
  Array.from(
    { length: Math.min(60, Math.floor(vanish.value / pitch.value)) },
    (_v, i) => end - px(i * pitch.value),
  ),
)
const tape = computed(() => Math.max(0, vanish.value - 2 * pitch.value))
const standoff = computed(() => props.readings?.[0] ?? null)
const y = (x: number) => top + ((end - x) / px(vanish.value)) * -18
const [onTape, onTurns, onStandoff] = [strong('tape'), strong('turns'), strong('standoff')]
const dial = computed(() => {
  const angle = (turns.value % 1) * 2 * Math.PI
  return { x: 78 + 44 * Math.sin(angle), y: 250 - 44 * Math.cos(angle) }
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="`Tape to ${len(tape)}, ${turns} turns past hand-tight${standoff === null ? '' : `, ${standoff} threads showing`}`"
  >
    <path
      class="body"
      :d="`M-4 ${y(end - px(vanish)) - 2}H${end - px(vanish)}L${end} ${top}V${top + 78}H-4Z`"
    />
    <path
      v-for="x in threads"
      :key="x"
      :d="`M${x} ${y(x)}l${-px(pitch) / 2} 9l${-px(pitch) / 2} -9`"
      fill="none"
      stroke="var(--ink)"
      stroke-width="1.2"
    />
    <path
      v-if="tape > 0"
      :d="`M${end} ${top + 3}L${end - px(tape)} ${y(end - px(tape)) + 3}`"
      :stroke="onTape ? 'var(--line)' : 'var(--lube)'"
      :stroke-width="onTape ? 9 : 6"
      opacity="0.75"
    />
    <line class="centre" x1="0" :x2="W" :y1="top + 78" :y2="top + 78" />
    <DrawnDimension
      :x1="end - px(vanish)"
      :x2="end"
      :y="26"
      :from="top - 22"
      :label="`to vanish point ${mm(vanish)}`"
    />
    <DrawnDimension
      :x1="end - px(tape)"
      :x2="end"
      :y="top + 112"
      :from="top + 60"
      :label="`tape ${mm(tape)}`"
      :strong="onTape"
      :tap="tappable('vanish')"
      @tap="$emit('tap', 'vanish')"
    />
    <!-- turns past hand-tight -->
    <circle cx="78" cy="250" r="50" class="body" />
    <line x1="78" y1="196" x2="78" y2="214" stroke="var(--ink)" stroke-width="3" />
    <line
      x1="78"
      y1="250"
      :x2="dial.x"
      :y2="dial.y"
      :stroke="onTurns ? 'var(--line)' : 'var(--ink)'"
      stroke-width="5"
    />
    <text x="140" y="238" class="sum">{{ turns }} turns</text>
    <text x="140" y="260" class="name">past hand-tight, by the drawn line</text>
    <g :class="{ tap: tappable('readings') }" @click="$emit('tap', 'readings')">
      <text x="140" y="296" :font-weight="onStandoff ? 650 : 400">
        {{ standoff === null ? 'last thread just enters' : `${standoff} threads showing` }}
      </text>
    </g>
  </svg>
</template>
