<script setup lang="ts">
import { compareSchools, type SchoolDifference } from '#core/judgement/compare-schools'
import { compareProcedures, type Difference } from '#core/procedure/compare'
import type { CompiledProcedure } from '#core/procedure/compile'
import { exampleFacts } from '#core/procedure/facts'
import { loadProcedure } from '#core/procedure/load'
import { Problem } from '#core/problem'
import type { ProcedureListed, ProcedureOpened } from '~/composables/types'
import { useSession } from '~/stores/session'
import { partWords, procedureStateWords } from '~/words'

/** Two revisions, or two choices of schools, side by side. */
const props = defineProps<{
  compiled: CompiledProcedure
  current: ProcedureListed
  revisions: ProcedureListed[]
}>()
const session = useSession()
const what = ref<'revisions' | 'schools'>(props.revisions.length > 1 ? 'revisions' : 'schools')
const other = ref(props.revisions.find((r) => r.id !== props.current.id)?.id ?? '')
const differences = shallowRef<Difference[] | null>(null)
const fault = ref('')
watch(
  [other, () => props.compiled],
  async () => {
    differences.value = null
    if (!other.value) return
    try {
      const { source } = await api<ProcedureOpened>(`${session.base}/procedures/${other.value}`)
      differences.value = compareProcedures(loadProcedure(source).procedure, props.compiled.procedure)
      fault.value = ''
    } catch (error) {
      fault.value =
        error instanceof ApiProblem || error instanceof Problem
          ? error.message
          : 'This could not be compared.'
    }
  },
  { immediate: true },
)

const defaults = () => Object.fromEntries(props.compiled.procedure.options.map((o) => [o.key, o.default]))
const a = reactive<Record<string, string>>(defaults())
const b = reactive<Record<string, string>>(
  Object.fromEntries(
    props.compiled.procedure.options.map((o) => [o.key, o.choices.find((c) => c.key !== o.default)!.key]),
  ),
)
const schoolDifferences = computed<SchoolDifference[]>(() =>
  compareSchools(props.compiled, exampleFacts(props.compiled.procedure), { ...a }, { ...b }),
)
const label = (r: ProcedureListed) => `Revision ${r.revision}, ${procedureStateWords[r.state]!.toLowerCase()}`
/** `check.limits.0.min` as a person says it */
const fieldName = (field: string) =>
  field
    .replace(/^check\./, '')
    .replace(/\.(\d+)/g, (_m, n) => ` ${Number(n) + 1}`)
    .replace(/limits/, 'limit')
    .replace(/choices/, 'choice')
    .replace(/\.min$/, ', at least')
    .replace(/\.max$/, ', at most')
    .replace(/onFailure\./, 'on failure, ')
    .replace(/\./g, ', ')
</script>

<template>
  <div class="compare">
    <ElRadioGroup v-model="what" aria-label="What to compare">
      <ElRadioButton value="revisions">Two revisions</ElRadioButton>
      <ElRadioButton value="schools" :disabled="compiled.procedure.options.length === 0"
        >Two schools</ElRadioButton
      >
    </ElRadioGroup>
    <template v-if="what === 'revisions'">
      <div v-if="revisions.length > 1" class="row">
        <ElSelect v-model="other" aria-label="Compare with" style="width: 280px"
          ><ElOption
            v-for="r in revisions.filter((x) => x.id !== current.id)"
            :key="r.id"
            :value="r.id"
            :label="label(r)"
        /></ElSelect>
        <span class="muted">against {{ label(current) }}</span>
      </div>
      <p v-else class="muted">There is only this revision.</p>
      <p v-if="fault" role="alert" class="fault">{{ fault }}</p>
      <p v-if="differences?.length === 0" class="muted">They say the same.</p>
      <div v-else-if="differences" class="sheet">
        <table class="figures">
          <thead>
            <tr>
              <th>Where</th>
              <th>{{ label(revisions.find((r) => r.id === other)!) }}</th>
              <th>{{ label(current) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in differences" :key="d.part + d.key + d.field">
              <td>
                <strong>{{ d.title }}</strong><br /><span class="muted small"
                  >{{ partWords[d.part] }}{{ d.field ? `, ${fieldName(d.field)}` : '' }}</span
                >
              </td>
              <td :class="{ gone: d.after === null }">
                <span v-if="d.before !== null" class="mono small">{{ d.before }}</span><span
                  v-else
                  class="muted"
                  >not there</span
                >
              </td>
              <td :class="{ fresh: d.before === null }">
                <span v-if="d.after !== null" class="mono small">{{ d.after }}</span><span
                  v-else
                  class="muted"
                  >taken out</span
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
    <template v-else>
      <p class="muted small">Worked out for the example joint of this procedure.</p>
      <p v-if="schoolDifferences.length === 0" class="muted">No step asks otherwise.</p>
      <div v-else class="sheet">
        <table class="figures">
          <thead>
            <tr>
              <th>Step</th>
              <th>Left</th>
              <th>Right</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in schoolDifferences" :key="d.step">
              <td>
                <strong>{{ d.title }}</strong>
              </td>
              <td>{{ d.a }}</td>
              <td>{{ d.b }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="schools">
        <div v-for="o in compiled.procedure.options" :key="o.key" class="school">
          <strong>{{ o.title }}</strong>
          <ElSelect v-model="a[o.key]" :aria-label="`${o.title}, left`"
            ><ElOption v-for="c in o.choices" :key="c.key" :value="c.key" :label="c.title"
          /></ElSelect>
          <ElSelect v-model="b[o.key]" :aria-label="`${o.title}, right`"
            ><ElOption v-for="c in o.choices" :key="c.key" :value="c.key" :label="c.title"
          /></ElSelect>
          <span class="muted small reason">{{ o.choices.find((c) => c.key === a[o.key])?.reason }}</span>
          <span class="muted small">{{ o.choices.find((c) => c.key === b[o.key])?.reason }}</span>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.compare {
  display: flex;
  flex-direction: column;
  gap: 16px;
  align-items: flex-start;
}
.sheet,
.schools {
  width: 100%;
}
td {
  width: 36%;
  overflow-wrap: anywhere;
}
td:first-child {
  width: 28%;
}
.gone {
  box-shadow: inset 4px 0 var(--rejected);
}
.fresh {
  box-shadow: inset 4px 0 var(--accepted);
}
.school {
  display: grid;
  grid-template-columns: 28% 1fr 1fr;
  gap: 4px 16px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
  align-items: center;
}
.reason {
  grid-column: 2;
}
</style>
