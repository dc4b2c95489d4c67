<script setup lang="ts">
import type { ProcedureRow } from '../../../server/db/projects'
import { loadProcedure } from '#core/procedure/load'
import type { Check } from '#core/procedure/types'
import { useSession } from '~/stores/session'
import { failureWords, pointWords } from '~/words'

const session = useSession()
const times = useTimes()
const id = useRoute().params.id as string
const { data, problem, loading, load } = useLoad(() => api<ProcedureRow>(`${session.base}/procedures/${id}`))
onMounted(load)
const procedure = computed(() => (data.value ? loadProcedure(data.value.source).procedure : null))
const rule = (c: Check): string => {
  if (c.kind === 'measure' || c.kind === 'environment') return c.limits.map((l) => `${l.title ?? l.of}${l.min !== undefined ? ` ≥ ${l.min}` : ''}${l.max !== undefined ? ` ≤ ${l.max}` : ''}`).join('; ')
  if (c.kind === 'mark') return `${c.formula} from the ${c.from}`
  if (c.kind === 'calculated') return `${c.formula}${c.min !== undefined ? ` ≥ ${c.min}` : ''}${c.max !== undefined ? ` ≤ ${c.max}` : ''}`
  if (c.kind === 'clock') return `${c.earliest ? `not before ${c.earliest}` : ''}${c.latest ? ` not after ${c.latest}` : ''}`
  if (c.kind === 'choice') return c.choices.map((x) => `${x.title}${x.conforms ? '' : ' ✗'}`).join(' · ')
  return 'question' in c ? c.question : ''
}
const print = () => window.print()
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!procedure || !data" :loading="loading" />
  <article v-else class="page reader">
    <div class="page-head"><h1 class="grow">{{ procedure.title }}</h1><span class="muted">Revision {{ procedure.revision }}, {{ data.state }} {{ data.issuedAt ? times.day(data.issuedAt) : '' }}</span><ElButton @click="print">Print</ElButton></div>
    <p class="basis">{{ procedure.basis }}</p>
    <ul class="cautions"><li v-for="c in procedure.cautions" :key="c">{{ c }}</li></ul>
    <section v-if="procedure.options.length">
      <h2>Where practice differs</h2>
      <div v-for="o in procedure.options" :key="o.key" class="option"><h3>{{ o.title }}</h3><p v-for="c in o.choices" :key="c.key" :class="{ chosen: c.key === o.default }"><strong>{{ c.title }}</strong>{{ c.key === o.default ? ' (chosen)' : '' }} – <span class="muted">{{ c.reason }}</span></p></div>
    </section>
    <section v-for="stage in procedure.stages" :key="stage.key">
      <h2>{{ stage.title }}</h2>
      <div v-for="s in stage.steps" :key="s.key" class="step">
        <h3>{{ s.title }}<span v-if="s.point" class="point">{{ pointWords[s.point] }}</span><span v-if="s.when" class="muted small"> when {{ s.when }}</span></h3>
        <p>{{ s.instruction }}</p>
        <p v-if="rule(s.check)" class="rule mono">{{ rule(s.check) }}</p>
        <p v-if="s.why" class="muted">{{ s.why }}</p>
        <p v-if="s.onFailure" class="small"><strong>{{ failureWords[s.onFailure.action] }}.</strong> {{ s.onFailure.words }}</p>
      </div>
    </section>
  </article>
</template>

<style scoped>
.reader {
  max-width: 940px;
}
section {
  margin-top: 24px;
}
h2 {
  border-bottom: 3px solid var(--ink);
  padding-bottom: 6px;
  margin-bottom: 6px;
}
.basis {
  font-weight: 600;
}
.cautions {
  margin: 12px 0;
  padding: 10px 14px 10px 30px;
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
}
.option,
.step {
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  gap: 3px;
}
.point {
  margin-left: 12px;
  color: var(--held);
}
.rule {
  font-size: var(--s14);
  overflow-wrap: anywhere;
}
@media print {
  .page-head .el-button {
    display: none;
  }
}
</style>
