<script setup lang="ts">
import type { ApiProblem } from '~/composables/useApi'

/** Loading, empty, refused and failed states, the same everywhere. */
defineProps<{ problem?: ApiProblem | null; loading?: boolean; empty?: string; hint?: string }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <div class="notice" role="status">
    <template v-if="problem">
      <StateGlyph
        :state="problem.code === 'forbidden' || problem.code === 'not-found' ? 'blocked' : 'rejected'"
        :size="40"
      />
      <h2>
        {{
          problem.code === 'forbidden'
            ? 'Not for your role'
            : problem.code === 'off-line'
              ? 'No signal'
              : problem.code === 'not-found'
                ? 'Not here'
                : 'This could not be loaded'
        }}
      </h2>
      <p class="muted">{{ problem.message }}</p>
      <ElButton v-if="problem.code !== 'forbidden' && problem.code !== 'not-found'" @click="$emit('again')"
        >Try again</ElButton
      >
    </template>
    <template v-else-if="loading">
      <StateGlyph state="waiting" :size="40" />
      <p class="muted">Loading …</p>
    </template>
    <template v-else>
      <StateGlyph state="not-started" :size="40" />
      <h2>{{ empty }}</h2>
      <p v-if="hint" class="muted">{{ hint }}</p>
      <slot />
    </template>
  </div>
</template>

<style scoped>
.notice {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 12px;
  min-height: 280px;
  padding: 24px;
  text-align: center;
}
p {
  max-width: 52ch;
}
</style>
