<script setup lang="ts">
import type { LiveRun } from '~/composables/useLiveTest'
import { markWords, type Mark, type MarkKind } from '#core/pressure/marks'
import { showDuration, showQuantity } from '#core/quantity/show'

/** A test while it runs: the reading, what goes on, how long it still takes, and what it takes to pass. */
const props = defineProps<{ run: LiveRun; marks: Mark[]; quiet: boolean; mayMark: boolean; busy: boolean }>()
defineEmits<{ mark: [MarkKind]; unmark: [id: string]; type: [] }>()
const times = useTimes()
const phase = computed(() => props.run.evaluation?.phases.at(-1) ?? null)
const lost = computed(() => props.run.contact.state === 'lost')
const silent = computed(() => showDuration(Math.round(props.run.contact.silent)))
</script>

<template>
  <section class="live" aria-label="The test now">
    <p v-if="quiet" class="lost" role="status">
      <StateGlyph state="too-close" :size="24" />This device does not reach the server: what shows is old.
    </p>
    <p v-else-if="lost" class="lost" role="status">
      <StateGlyph state="too-close" :size="24" />No reading for {{ silent }}. The logger keeps what it reads
      and fills the gap when it sends again.
    </p>
    <div class="now">
      <span class="reading">{{
        run.last ? showQuantity(run.last.pressure, 'pressure', 'kPa', 5) : 'No reading yet'
      }}</span>
      <span v-if="run.last && run.last.pipe !== null" class="beside"
        >pipe {{ showQuantity(run.last.pipe, 'temperature', '°C', 3) }}</span
      >
      <span v-if="run.last && run.last.makeup !== null" class="beside"
        >added {{ showQuantity(run.last.makeup, 'volume', 'L', 4) }}</span
      >
      <span class="grow" />
      <strong v-if="phase" class="phase">{{ phase.title }}</strong>
      <span v-if="run.evaluation?.needed" class="phase">{{ showDuration(run.evaluation.needed) }} to go</span>
    </div>
    <p v-if="run.evaluation" class="says">{{ run.evaluation.sentence }}</p>
    <ul v-if="run.evaluation?.outlook?.length" class="outlook" aria-label="What it takes to pass">
      <li v-for="line in run.evaluation.outlook" :key="line">{{ line }}</li>
    </ul>
    <div v-if="mayMark" class="marks" role="group" aria-label="Mark on the trace">
      <ElButton
        v-for="kind in run.next"
        :key="kind"
        size="large"
        :disabled="busy"
        :type="kind === 'leak-found' ? 'danger' : undefined"
        :plain="kind === 'leak-found'"
        @click="$emit('mark', kind)"
        >{{ markWords[kind] }}</ElButton
      >
      <ElButton size="large" @click="$emit('type')">Type a reading</ElButton>
    </div>
    <ol v-if="marks.length > 0" class="marked" aria-label="Marked">
      <li v-for="m in marks" :key="m.id">
        <span class="muted">{{ times.second(m.at) }}</span> {{ markWords[m.kind] }}
        <button v-if="mayMark" type="button" @click="$emit('unmark', m.id)">Strike</button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.live {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.lost {
  display: flex;
  gap: 10px;
  align-items: center;
  background: color-mix(in srgb, var(--too-close) 12%, var(--card));
  padding: 8px 12px;
}
.now {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
}
.beside {
  color: var(--muted);
}
.phase {
  font-size: var(--s18);
}
.outlook {
  margin: 0;
  padding-left: 20px;
  color: var(--muted);
}
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.marks :deep(.el-button) {
  margin: 0;
}
.marked {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
  font-size: var(--s14);
}
.marked button {
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--line);
  text-decoration: underline;
  cursor: pointer;
}
</style>
