<script setup lang="ts">
import { standingCauses, type StandingCause } from '#core/crew/standing-time'
import { standingWords } from '#core/crew/standing-time'

/** How long a crew stood, by cause, to one scale for all that are shown together. */
const props = defineProps<{ standing: Record<StandingCause, number>; most: number }>()
const times = useTimes()
const parts = computed(() =>
  standingCauses
    .filter((c) => props.standing[c] > 0)
    .map((cause) => ({ cause, ms: props.standing[cause], share: props.standing[cause] / (props.most || 1) })),
)
const said = computed(() =>
  parts.value.length === 0
    ? 'Did not stand'
    : parts.value.map((p) => `${standingWords[p.cause]} ${times.span(p.ms)}`).join(', '),
)
</script>

<template>
  <span class="standing">
    <span class="track" role="img" :aria-label="said">
      <span v-for="p in parts" :key="p.cause" :class="p.cause" :style="{ width: `${p.share * 100}%` }" />
    </span>
    <span class="muted small">{{ said }}</span>
  </span>
</template>

<style scoped>
.standing {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.track {
  display: flex;
  height: 12px;
  background: var(--wash);
}
.track span {
  display: block;
}
.release {
  background: var(--held);
}
.ncr {
  background: var(--rejected);
}
.material {
  background: var(--muted);
}
.weather {
  background: var(--waiting);
}
.other {
  background: var(--ink);
}
</style>
