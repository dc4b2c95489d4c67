<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import type { deliverySheet } from '../../../server/services/delivery-sheet'

/** The articles of a note, and how far each has been looked at, by a sample or piece by piece. */
type Article = Awaited<ReturnType<typeof deliverySheet>>['articles'][number]
defineProps<{ articles: Article[]; chosen: string | null }>()
defineEmits<{ choose: [item: string] }>()
function words({ sampling, waiting }: Article): string {
  if (!sampling) return waiting ? `${showCount(waiting)} to look at` : 'looked at'
  if (sampling.accepted === null) return `sample: ${sampling.open} of ${sampling.sample} to look at`
  return sampling.accepted ? 'sample passed' : 'sample refused'
}
</script>

<template>
  <div class="articles" role="group" aria-label="Samples">
    <button
      v-for="a in articles"
      :key="a.item"
      type="button"
      class="article"
      :aria-pressed="a.item === chosen"
      @click="$emit('choose', a.item)"
    >
      <strong>{{ a.item }}</strong><span class="muted small">{{ words(a) }}</span>
    </button>
  </div>
</template>

<style scoped>
.articles {
  display: flex;
  gap: 8px;
  overflow-x: auto;
  flex: none;
}
.article {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  justify-content: center;
  min-height: 52px;
  padding: 2px 14px;
  border: 1px solid var(--hair);
  border-left: 4px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  color: inherit;
  cursor: pointer;
  white-space: nowrap;
}
.article[aria-pressed='true'] {
  border-left-color: var(--line);
  background: var(--wash);
}
</style>
