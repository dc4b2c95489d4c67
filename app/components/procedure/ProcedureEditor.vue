<script setup lang="ts">
import { editablesOf, setInSource, type Editable } from '#core/procedure/edit'
import { loadProcedure } from '#core/procedure/load'
import { Problem } from '#core/problem'
import type { ProcedureOpened } from '~/composables/types'
import { useSession } from '~/stores/session'

/**
 * A draft at work: limits, schools and tables as fields, everything else as text; checked at every
 * change.
 */
const props = defineProps<{ opened: ProcedureOpened; readonly: boolean }>()
const emit = defineEmits<{ saved: [] }>()
const SourceEditor = defineAsyncComponent(() => import('./SourceEditor.vue'))
const session = useSession()
const source = ref(props.opened.source)
const version = ref(props.opened.version)
const saved = ref(props.opened.source)
const how = ref<'fields' | 'text'>('fields')
const editor = useTemplateRef<{ show: (line: number) => void }>('editor')
const checked = computed(() => {
  try {
    return { compiled: loadProcedure(source.value), problem: null }
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    return { compiled: null, problem: error }
  }
})
/** the fields of the last document that could be read */
const fields = shallowRef(editablesOf(loadProcedure(props.opened.source).procedure))
watch(checked, (c) => {
  if (c.compiled) fields.value = editablesOf(c.compiled.procedure)
})
const groups = (list: Editable[]) => [...Map.groupBy(list, (e) => e.group)]
const fault = ref('')
function put(e: Editable, value: string) {
  try {
    source.value = setInSource(source.value, e.path, value)
    fault.value = ''
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    fault.value = error.message
  }
}
const busy = ref(false)
async function save() {
  busy.value = true
  fault.value = ''
  try {
    const reply = await api<{ version: number }>(`${session.base}/procedures/${props.opened.id}/source`, {
      body: { source: source.value, version: version.value },
    })
    version.value = reply.version
    saved.value = source.value
    emit('saved')
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error.message
  } finally {
    busy.value = false
  }
}
const dirty = computed(() => source.value !== saved.value)
onBeforeRouteLeave(() => (dirty.value ? window.confirm('This draft is not saved. Leave it?') : true))
/** a line to go to as soon as the text editor is there: it loads when it is first shown */
const wantedLine = ref<number | null>(null)
watch([editor, wantedLine], ([there, line]) => {
  if (!there || line === null) return
  there.show(line)
  wantedLine.value = null
})
function toFault() {
  how.value = 'text'
  wantedLine.value = Number(checked.value.problem?.details?.line ?? 1)
}
</script>

<template>
  <div class="edit">
    <div class="head">
      <ElRadioGroup v-model="how" aria-label="How to edit"
        ><ElRadioButton value="fields">Limits, schools, tables</ElRadioButton
        ><ElRadioButton value="text">Whole document</ElRadioButton></ElRadioGroup
      >
      <span class="grow" />
      <span v-if="dirty" class="muted">Not saved</span>
      <ElButton
        v-if="!readonly"
        type="primary"
        size="large"
        :disabled="!dirty || checked.problem !== null"
        :loading="busy"
        @click="save"
        >Save the draft</ElButton
      >
    </div>
    <p v-if="checked.problem" class="fault" role="alert">
      <strong>{{ checked.problem.message }}</strong>
      <ElButton link type="primary" @click="toFault">Show the line</ElButton>
    </p>
    <p v-else-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else class="fine small">
      The document is read and checked: {{ checked.compiled?.steps.length }} steps, every formula fits its
      units.
    </p>
    <div v-if="how === 'text'" class="text">
      <SourceEditor ref="editor" v-model="source" :problem="checked.problem" :readonly="readonly" />
    </div>
    <div v-else class="fields">
      <section v-if="fields.schools.length">
        <h2>Schools</h2>
        <div v-for="e in fields.schools" :key="e.path.join('.')" class="line">
          <strong>{{ e.group }}</strong><ElSelect
            :model-value="e.value"
            :disabled="readonly"
            :aria-label="e.group"
            @update:model-value="(v: string) => put(e, v)"
            ><ElOption v-for="c in e.choices" :key="c.key" :value="c.key" :label="c.title"
          /></ElSelect>
        </div>
      </section>
      <section>
        <h2>Limits, marks and times</h2>
        <div v-for="[group, list] in groups(fields.limits)" :key="group" class="line">
          <strong>{{ group }}</strong>
          <div class="values">
            <label v-for="e in list" :key="e.path.join('.')"
              ><span class="muted small">{{ e.title }}</span
              ><input
                class="value mono"
                :value="e.value"
                :disabled="readonly"
                maxlength="400"
                :aria-label="`${group}, ${e.title}`"
                @change="put(e, ($event.target as HTMLInputElement).value)"
            /></label>
          </div>
        </div>
      </section>
      <section v-if="fields.tables.length">
        <h2>Tables</h2>
        <div v-for="[group, list] in groups(fields.tables)" :key="group" class="line">
          <strong>{{ group }}</strong>
          <div class="cells">
            <label v-for="e in list" :key="e.path.join('.')"
              ><span class="muted small">{{ e.title }}</span
              ><input
                class="value"
                :value="e.value"
                :disabled="readonly"
                maxlength="60"
                :aria-label="`${group}, ${e.title}`"
                @change="put(e, ($event.target as HTMLInputElement).value)"
            /></label>
          </div>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.edit {
  display: flex;
  flex-direction: column;
  gap: 12px;
  height: 100%;
  min-height: 0;
}
.head {
  display: flex;
  align-items: center;
  gap: 12px;
}
.fine {
  color: var(--accepted);
}
.text {
  flex: 1;
  min-height: 320px;
}
.fields {
  overflow: auto;
  min-height: 0;
  flex: 1;
}
section {
  margin-bottom: 20px;
}
h2 {
  border-bottom: 3px solid var(--ink);
  padding-bottom: 6px;
}
.line {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 16px;
  padding: 10px 0;
  border-bottom: 1px solid var(--hair);
  align-items: start;
}
.values {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 14px;
}
.cells {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(110px, 1fr));
  gap: 8px;
}
label {
  display: block;
}
.value {
  width: 100%;
  height: 44px;
  padding: 0 10px;
  border: 1px solid var(--muted);
  border-radius: var(--corner);
  background: var(--card);
  color: var(--ink);
  font-size: var(--s16);
}
.value:disabled {
  background: var(--wash);
  color: var(--muted);
}
.fields :deep(.el-input),
.fields :deep(.el-select) {
  --el-component-size: 44px;
}
@media (max-width: 1000px) {
  .editor,
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
