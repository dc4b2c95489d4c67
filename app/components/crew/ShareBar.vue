<script setup lang="ts">
import type { Share } from '#core/crew/first-time'

/** A share with the span that it may as well be, drawn from nothing to all. */
const props = defineProps<{ share: Share; label: string }>()
const percent = (r: number) => `${Math.round(r * 100)} %`
const said = computed(() =>
  props.share.share === null
    ? `${props.label}: nothing made yet`
    : `${props.label}: ${percent(props.share.share)}, ${props.share.right} of ${props.share.of}; ` +
      `likely between ${percent(props.share.low)} and ${percent(props.share.high)}`,
)
</script>

<template>
  <span class="share" role="img" :aria-label="said" :title="said">
    <svg viewBox="0 0 100 22" preserveAspectRatio="none" aria-hidden="true">
      <line x1="0" x2="100" y1="11" y2="11" stroke="var(--hair)" stroke-width="4" />
      <template v-if="share.share !== null">
        <rect
          :x="share.low * 100"
          y="6"
          :width="Math.max(0.5, (share.high - share.low) * 100)"
          height="10"
          fill="var(--line)"
          opacity="0.28"
        />
        <rect :x="share.share * 100 - 0.7" y="2" width="1.4" height="18" fill="var(--line)" />
      </template>
    </svg>
    <span class="words">
      <strong>{{ share.share === null ? '–' : percent(share.share) }}</strong>
      <span class="muted small">{{ share.right }} of {{ share.of }}</span>
    </span>
  </span>
</template>

<style scoped>
.share {
  display: flex;
  align-items: center;
  gap: 10px;
}
svg {
  width: 120px;
  height: 22px;
  flex: none;
}
.words {
  white-space: nowrap;
  display: flex;
  flex-direction: column;
  line-height: 1.2;
}
</style>
