<script setup lang="ts">
import { computed } from 'vue'
import { stateWords } from '~/words'
import type { SubjectState } from '#core/judgement/types'
import type { StepState } from '#core/checks/verdict'

/** A state by shape, colour and word. The word stands beside it or is its accessible name. */
const props = withDefaults(
  defineProps<{ state: StepState | SubjectState; size?: number; word?: boolean }>(),
  {
    size: 22,
    word: false,
  },
)

const colours: Partial<Record<StepState | SubjectState, string>> = {
  accepted: 'accepted',
  rejected: 'rejected',
  overdue: 'rejected',
  'too-close': 'too-close',
  differs: 'too-close',
  waiting: 'waiting',
  held: 'held',
  'in-work': 'line',
}
const colour = computed(() => `var(--${colours[props.state] ?? 'idle'})`)
const label = computed(() => stateWords[props.state])
</script>

<template>
  <span class="glyph" :style="{ color: colour }">
    <svg
      :width="size"
      :height="(size * 2) / 3"
      viewBox="0 0 48 32"
      :role="word ? undefined : 'img'"
      :aria-label="word ? undefined : label"
      :aria-hidden="word || undefined"
    >
      <GlyphShape :state="state" />
    </svg>
    <span v-if="word">{{ label }}</span>
  </span>
</template>

<style scoped>
.glyph {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  flex: none;
  font-weight: 600;
  white-space: nowrap;
}
svg {
  display: block;
  flex: none;
}
</style>
