<script setup lang="ts">
import { computed } from 'vue'
import type { SubjectState } from '#core/judgement/types'
import type { StepState } from '#core/checks/verdict'

/** The state as two pipe ends and what stands between them: 48 by 32 units, in the current colour. */
const props = defineProps<{ state: StepState | SubjectState }>()
const apart = computed(() => !['accepted', 'rejected', 'too-close', 'differs'].includes(props.state))
const dash = computed(() =>
  props.state === 'not-applicable' || props.state === 'withdrawn' ? '4 3' : undefined,
)
</script>

<template>
  <g>
    <g v-if="apart" fill="none" stroke="currentColor" stroke-width="4" :stroke-dasharray="dash"
      ><path d="M1 7H15V25H1" /><path d="M47 7H33V25H47"
    /></g>
    <path v-if="state === 'in-work'" d="M15 16H27" stroke="currentColor" stroke-width="6" />
    <rect v-if="state === 'accepted'" x="1" y="5" width="46" height="22" fill="currentColor" />
    <path v-if="state === 'rejected'" d="M1 2H24V6L30 12H47V30H24V20H1Z" fill="currentColor" />
    <g v-if="state === 'too-close' || state === 'differs'">
      <rect x="3" y="7" width="42" height="18" fill="none" stroke="currentColor" stroke-width="4" />
      <rect
        :x="state === 'differs' ? 24 : 3"
        :y="state === 'differs' ? 7 : 16"
        :width="state === 'differs' ? 21 : 42"
        :height="state === 'differs' ? 18 : 9"
        fill="currentColor"
      />
    </g>
    <path v-if="state === 'waiting'" d="M24 7A9 9 0 0 1 33 16H24Z" fill="currentColor" class="turning" />
    <path v-if="state === 'overdue'" d="M24 7A9 9 0 1 1 15 16H24Z" fill="currentColor" />
    <rect v-if="state === 'held'" x="21" y="1" width="6" height="30" fill="currentColor" />
    <path v-if="state === 'withdrawn'" d="M4 29L44 3" stroke="currentColor" stroke-width="4" />
    <circle v-if="state === 'blocked'" cx="24" cy="16" r="4.5" fill="currentColor" />
  </g>
</template>

<style scoped>
.turning {
  transform-origin: 24px 16px;
  animation: turn 4s steps(4) infinite;
}
@keyframes turn {
  to {
    transform: rotate(360deg);
  }
}
</style>
