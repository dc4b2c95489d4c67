<script setup lang="ts">
import type { packSheet } from '../../../server/services/pack-view'
import { testVerdictStates, testVerdictWords } from '~/words'

/** Runs before the last: kept with what they said, and with what was done before the next. */
type Sheet = Awaited<ReturnType<typeof packSheet>>
const props = defineProps<{ runs: Sheet['earlier']; last: Sheet['run']; pack: Sheet['pack'] }>()
const times = useTimes()
const next = (i: number) => props.runs[i + 1]?.since ?? props.last?.since ?? null
const shown = (run: Sheet['earlier'][number]) => ({
  ...{ samples: run.trace!.samples, startedAt: run.trace!.startedAt, evaluation: run.evaluation },
  ...{ testPressure: props.pack.design.testPressure, band: 0, trend: null, corrected: null, left: [] },
  marks: run.marks,
})
</script>

<template>
  <section class="runs" aria-label="Earlier runs">
    <h2>Earlier runs</h2>
    <details v-for="(run, i) in runs" :key="run.startedAt">
      <summary>
        <StateGlyph :state="testVerdictStates[run.evaluation?.verdict ?? 'incomplete']!" :size="22" />
        Run {{ i + 1 }}, {{ times.moment(run.startedAt) }}:
        {{ testVerdictWords[run.evaluation?.verdict ?? 'incomplete']!.toLowerCase() }}
      </summary>
      <p>{{ run.evaluation?.sentence ?? 'It ended without an evaluation.' }}</p>
      <PressureTrace v-if="run.trace" :shown="shown(run)" :name="`${pack.number}-run-${i + 1}`" />
      <p v-if="next(i)"><strong>Before the next run:</strong> {{ next(i) }}</p>
    </details>
  </section>
</template>

<style scoped>
details {
  border-top: 1px solid var(--hair);
  padding: 4px 0;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 10px;
  cursor: pointer;
}
</style>
