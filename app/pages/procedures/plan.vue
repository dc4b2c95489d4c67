<script setup lang="ts">
import { parties, type Party } from '#core/plan/points'
import type { Matrix, MatrixRow, pointMatrix } from '../../../server/services/points'
import { useSession } from '~/stores/session'
import { pointWords } from '~/words'

/** The inspection and test plan: every step of every procedure in use, and who comes to look at it. */
const session = useSession()
const times = useTimes()
const line = useAddress('line')
const crew = useAddress('crew')
const query = computed(() => ({
  ...(line.value && { line: line.value }),
  ...(crew.value && { crew: crew.value }),
}))
const { data, problem, loading, load } = useLoad(() =>
  api<Awaited<ReturnType<typeof pointMatrix>>>(`${session.base}/points`, { query: query.value }),
)
onMounted(load)
watch(query, load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'project') && void load())
const chosen = useAddress('procedure')
const matrix = computed<Matrix | null>(
  () => data.value?.matrices.find((m) => m.procedure.key === chosen.value) ?? data.value?.matrices[0] ?? null,
)
const counts = (m: Matrix) => m.rows.filter((r) => parties.some((p) => r.cells[p].point !== null)).length
const pending = computed(() => (data.value?.rules ?? []).filter((r) => r.review === null))
const past = computed(() =>
  (data.value?.rules ?? [])
    .filter((r) => r.procedure === matrix.value?.procedure.key && r.review !== null)
    .sort((a, b) => b.review!.at - a.review!.at),
)
const may = computed(() => session.can('set-rule'))
const { name, procedureTitle, says } = usePlanChanges(() => data.value)
/** what somebody typed, ended as a sentence is */
const asSentence = (text: string) => (/[.!?]$/.test(text) ? text : `${text}.`)

const asking = ref(false)
const about = reactive({
  step: null as { key: string; title: string } | null,
  party: 'inspector' as Party,
  point: null as MatrixRow['cells'][Party]['point'],
})
function change(row: MatrixRow | null, party: Party) {
  Object.assign(about, {
    step: row && { key: row.step, title: row.title },
    party,
    point: row?.cells[party].point ?? null,
  })
  asking.value = true
}
const turning = ref<string | null>(null)
async function review(rule: string, accepted: boolean, reason = '') {
  try {
    await api(`${session.base}/points/${rule}`, { body: { accepted, reason } })
    await load()
  } catch (error) {
    tell(error, 'This was not sent.')
  }
}
const today = times.today()
const fileAddress = (as: 'csv' | 'xlsx' | 'pdf') =>
  `/api/${session.base}/points/file?${new URLSearchParams({ ...(query.value as Record<string, string>), as })}`
</script>

<template>
  <div class="page">
    <ProcedureTabs />
    <h1 class="visually-hidden">Inspection plan</h1>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.matrices.length === 0"
      empty="No procedure is issued yet"
      hint="The plan is made of the steps of issued procedures."
    />
    <template v-else>
      <div class="scope">
        <ScopeFields v-model:line="line" v-model:crew="crew" />
        <ul class="legend" aria-label="What the letters mean">
          <li v-for="(word, letter) in pointWords" :key="letter">
            <PointMark :point="letter" in-words /> {{ word }}
          </li>
        </ul>
        <NoticeSetting :notice="data.notice" @done="load" />
        <span class="takes">
          <a :href="fileAddress('pdf')" target="_blank" class="take">Print (PDF)</a>
          <a :href="fileAddress('xlsx')" class="take">XLSX</a>
          <a :href="fileAddress('csv')" class="take">CSV</a>
        </span>
      </div>
      <section v-if="pending.length > 0" class="pending" aria-label="To be reviewed">
        <h2>To be reviewed by a second engineer</h2>
        <div v-for="r in pending" :key="r.id" class="change">
          <p class="grow">
            <strong>{{ procedureTitle(r.procedure) }}.</strong> {{ says(r) }}.
            <span class="muted small">{{ name(r.by) }}, {{ times.moment(r.at) }}: {{ r.reason }}</span>
          </p>
          <template v-if="may && r.by !== session.person?.id">
            <ElButton type="primary" size="large" @click="review(r.id, true)">Take into the plan</ElButton>
            <ElButton size="large" @click="turning = r.id">Turn down</ElButton>
          </template>
        </div>
      </section>
      <div class="parts">
        <nav class="procedures" aria-label="Procedures in use">
          <button
            v-for="m in data.matrices"
            :key="m.procedure.key"
            type="button"
            :class="{ here: m === matrix }"
            :aria-current="m === matrix || undefined"
            @click="chosen = m.procedure.key"
          >
            {{ m.procedure.title
            }}<span class="muted small">{{ counts(m) }} {{ counts(m) === 1 ? 'point' : 'points' }}</span>
          </button>
        </nav>
        <section v-if="matrix" class="sheet matrix" :aria-label="matrix.procedure.title">
          <header>
            <h2 class="grow">
              {{ matrix.procedure.title }}
              <span class="muted small">revision {{ matrix.procedure.revision }}</span>
            </h2>
            <QualifyChoice
              :procedure="matrix.procedure.key"
              :mode="data.qualify[matrix.procedure.key] ?? null"
              @done="load"
            />
            <ElButton v-if="may" size="large" @click="change(null, 'inspector')">New crew …</ElButton>
          </header>
          <PlanMatrix :rows="matrix.rows" :may="may" @change="change" />
          <template v-if="past.length > 0">
            <h3>Changes</h3>
            <p v-for="r in past" :key="r.id" class="small">
              <span :class="{ gone: !r.review!.accepted }">{{ says(r) }}</span>
              <span class="muted">
                – {{ name(r.by) }}: {{ asSentence(r.reason) }}
                {{ r.review!.accepted ? 'Reviewed' : `Turned down: ${r.review!.reason}` }} by
                {{ name(r.review!.by) }}, {{ times.moment(r.review!.at) }}</span
              >
            </p>
          </template>
        </section>
      </div>
      <PointDialog
        v-if="matrix"
        v-model="asking"
        :procedure="matrix.procedure"
        :step="about.step"
        :party="about.party"
        :point="about.point"
        :line="line || null"
        :crew="crew || null"
        :today="today"
        @done="load"
      />
      <AskDialog
        :model-value="turning !== null"
        title="Turn the change down"
        label="Why?"
        action="Turn down"
        :send="(reason: string) => review(turning!, false, reason)"
        @update:model-value="turning = null"
      />
    </template>
  </div>
</template>

<style scoped>
.scope {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 12px 20px;
  margin-bottom: 16px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  list-style: none;
  margin: 0;
  padding: 0;
  flex: 1 1 540px;
}
.legend li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 48px;
}
/* What is said of the plan as a whole stands together at the right. */
.takes {
  display: flex;
  gap: 0 18px;
}
.take {
  display: flex;
  align-items: center;
  min-height: 48px;
}
.pending {
  border-left: 4px solid var(--held);
  padding: 4px 0 4px 16px;
  margin-bottom: 20px;
}
.change {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
.change p {
  display: flex;
  flex: 1 1 320px;
  flex-direction: column;
  margin: 6px 0;
}
.parts {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
.procedures button {
  display: flex;
  flex-direction: column;
  width: 100%;
  min-height: 52px;
  padding: 6px 14px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.procedures .here {
  background: var(--wash);
  border-left-color: var(--line);
  font-weight: 600;
}
.matrix {
  padding: 14px 18px;
}
.matrix header {
  display: flex;
  align-items: center;
  gap: 16px;
}
.gone {
  text-decoration: line-through;
}
@media (max-width: 900px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }
  .procedures {
    display: flex;
    overflow-x: auto;
  }
  .procedures button {
    flex: none;
    width: auto;
    border-left: 0;
    border-bottom: 4px solid transparent;
  }
  .procedures .here {
    border-bottom-color: var(--line);
  }
}
</style>
