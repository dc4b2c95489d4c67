<script setup lang="ts">
import { useStrip } from '~/stores/strip'

/** What is judged anew in the background, and how far it has come. */
const strip = useStrip()
const { open } = useJobs(() => void strip.load())
const job = computed(() => open.value[0] ?? null)
const number = new Intl.NumberFormat('en-GB')
</script>

<template>
  <span v-if="job" class="job" role="status">
    Judging anew: {{ number.format(job.done) }} of {{ number.format(job.total) }}
    <progress :value="job.done" :max="job.total" aria-label="Judged anew" />
  </span>
</template>

<style scoped>
.job {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
  font-size: var(--s14);
  color: var(--muted);
}
progress {
  width: 72px;
  height: 6px;
  accent-color: var(--line);
}
@media (max-width: 720px) {
  .job {
    display: none;
  }
}
</style>
