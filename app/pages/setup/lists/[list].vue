<script setup lang="ts">
import { headerOf, type Column } from '#core/plan/lists/define'
import { findList, planLists } from '#core/plan/lists/registry'
import { readQuantity } from '#core/quantity/read'
import { showCount, showQuantity } from '#core/quantity/show'
import type { keepList, listRows, previewList } from '../../../../server/services/lists'
import type { ChosenFile } from '~/components/delivery/FileDrop.vue'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

/** One list of the setup: its rows, one added by hand, a file brought in, and all of it taken out as a file. */
type Rows = Awaited<ReturnType<typeof listRows>>
type Preview = Awaited<ReturnType<typeof previewList>>
type Kept = Awaited<ReturnType<typeof keepList>>
const session = useSession()
const strip = useStrip()
const route = useRoute()
const key = computed(() => String(route.params.list))
const list = computed(() => findList(planLists.some((l) => l.key === key.value) ? key.value : 'articles'))
const base = computed(() => `${session.base}/lists/${list.value.key}`)
const lists = computed(() => planLists.filter((l) => session.can(l.act)))

const { data, problem, loading, load } = useLoad(() => api<Rows>(`${base.value}?from=0`))
const shown = computed(() => Object.entries(list.value.columns).filter(([, c]) => !c.fileOnly))
const more = useSending()
async function loadMore() {
  const next = await more.send(() => api<Rows>(`${base.value}?from=${data.value!.rows.length}`))
  if (next && data.value) data.value = { ...next, rows: [...data.value.rows, ...next.rows] }
}

const way = ref<'none' | 'form' | 'file'>('none')
/** the row that is put right, by its name, and why */
const correcting = ref<string | null>(null)
const reason = ref('')
const form = ref<Record<string, string>>({})
const { busy, at, besides, send } = useSending()
const done = ref('')
const links = ref<Kept['links']>([])
const file = ref<ChosenFile | null>(null)
const preview = ref<Preview | null>(null)
watch(
  list,
  () => {
    ;[form.value, file.value, preview.value, done.value, links.value] = [{}, null, null, '', []]
    way.value = 'none'
    correcting.value = null
    void load()
  },
  { immediate: true },
)
watch(file, async (chosen) => {
  preview.value = null
  if (chosen)
    preview.value = await send(() => api<Preview>(`${base.value}/preview`, { body: { file: chosen } }))
})
/** a cell as people read it; files keep every digit */
function cell(value: unknown, { shown: as }: Column): string {
  if (value === null || value === undefined || value === '') return ''
  return as ? showQuantity(readQuantity(value, as.dimension), as.dimension, as.unit) : String(value)
}
const longer = new Set(['facts', 'parameters', 'title'])
const faultAt = (column: string) => at(headerOf(column))
const columns = computed(() => shown.value.map(([c]) => headerOf(c)))
const complete = computed(() =>
  shown.value.every(([c, column]) => column.optional || (form.value[c] ?? '').trim() !== ''),
)
function add() {
  ;[correcting.value, form.value, way.value] = [null, {}, 'form']
}
function correct(row: Record<string, unknown>) {
  correcting.value = String(row[list.value.name!])
  form.value = Object.fromEntries(shown.value.map(([c]) => [c, row[c] == null ? '' : String(row[c])]))
  ;[reason.value, done.value, way.value] = ['', '', 'form']
}
async function putRight() {
  const body = { row: form.value, reason: reason.value }
  if (!(await send(() => api(`${base.value}/correct`, { body })))) return
  done.value = `${correcting.value} is put right. Joints opened before keep what they were opened with.`
  ;[correcting.value, way.value] = [null, 'none']
  await Promise.all([load(), session.loadProject()])
}
async function keep(body: object) {
  const kept = await send(() => api<Kept>(base.value, { body }))
  if (!kept) return
  const { one, title } = list.value
  done.value = kept.kept === 1 ? `The ${one} is added.` : `${showCount(kept.kept)} are added to ${title}.`
  links.value = kept.links
  ;[file.value, preview.value] = [null, null]
  form.value = {}
  if (body && 'file' in body) way.value = 'none'
  await Promise.all([load(), session.loadProject(), strip.load()])
}

/** what of the rows stands where on the line that is chosen above, m */
const line = computed(() => session.line)
const station = (text: unknown) => (typeof text === 'string' && text ? readQuantity(text, 'length') : null)
const onLine = computed(() => {
  if (!line.value || !data.value) return { marks: [], spans: [] }
  const own = data.value.rows.filter((r) => r.line === line.value!.key)
  const name = list.value.name ?? 'station'
  return {
    marks: own.flatMap((r) => {
      const s = station(r.station)
      return s === null ? [] : [{ station: s, name: list.value.key === 'structures' ? String(r[name]) : '' }]
    }),
    spans: own.flatMap((r) => {
      const [from, to] = [station(r.from), station(r.to)]
      return from === null || to === null ? [] : [{ from, to, name: String(r[name]) }]
    }),
  }
})
/** what is planned goes off the plan again until work hangs on it; the server knows whether it does */
const removable = computed(() => list.value.planned === true)
const leaving = ref('')
const offOpen = ref(false)
function askOff(name: string) {
  ;[leaving.value, offOpen.value] = [name, true]
}
async function off(reason: string) {
  await api(`${base.value}/remove`, { body: { names: [leaving.value], reason } })
  done.value = `${leaving.value} is off the plan.`
  await Promise.all([load(), session.loadProject(), strip.load()])
}
const drawn = computed(() => onLine.value.marks.length + onLine.value.spans.length > 0)
</script>

<template>
  <div class="page" tabindex="0" role="region" :aria-label="list.title">
    <SetupTabs />
    <nav class="lists" aria-label="Lists">
      <NuxtLink
        v-for="l in lists"
        :key="l.key"
        :to="`/setup/lists/${l.key}`"
        :aria-current="l.key === list.key ? 'page' : undefined"
        >{{ l.title }}</NuxtLink
      >
    </nav>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <div class="page-head">
        <h1 class="grow">
          {{ list.title }} <span class="muted">{{ showCount(data.total) }}</span>
        </h1>
        <ElButton
          size="large"
          :type="way === 'form' && correcting === null ? 'primary' : 'default'"
          @click="add"
          >Add by hand</ElButton
        >
        <ElButton size="large" :type="way === 'file' ? 'primary' : 'default'" @click="way = 'file'"
          >Bring a file</ElButton
        >
        <a class="take" :href="`/api/${base}/file`" :download="`${list.key}.csv`">Take as a file</a>
      </div>
      <p v-if="done" class="done" role="status">{{ done }}</p>
      <OneTimeLink v-for="l in links" :key="l.token" :token="l.token" :name="l.name" class="sheet shown" />
      <PlanForm v-if="way === 'form'" @submit="correcting === null ? keep({ row: form }) : putRight()">
        <h2 v-if="correcting !== null" class="wide">Put {{ correcting }} right</h2>
        <FormField
          v-for="[c, column] in shown"
          :key="c"
          :label="column.optional ? `${column.title} (may stay empty)` : column.title"
          :fault="faultAt(c)"
          :group="Boolean(column.choices)"
        >
          <ElSelect
            v-if="column.choices"
            v-model="form[c]"
            size="large"
            filterable
            clearable
            :aria-label="column.title"
            ><ElOption v-for="o in data.choices[c]" :key="o" :value="o" :label="o"
          /></ElSelect>
          <ElInput
            v-else
            v-model="form[c]"
            size="large"
            maxlength="400"
            :placeholder="column.hint"
            :disabled="correcting !== null && c === list.name"
          />
        </FormField>
        <FormField v-if="correcting !== null" label="Why it is changed" class="wide" :fault="at('reason')"
          ><ElInput v-model="reason" size="large" maxlength="400"
        /></FormField>
        <p v-if="besides([...columns, 'reason'])" class="fault wide" role="alert">
          {{ besides([...columns, 'reason']) }}
        </p>
        <template #acts>
          <ElButton size="large" @click="way = 'none'">Back</ElButton>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="!complete || (correcting !== null && !reason.trim())"
            >{{ correcting === null ? `Add the ${list.one}` : 'Put it right' }}</ElButton
          >
        </template>
      </PlanForm>
      <PlanForm v-if="way === 'file'" @submit="keep({ file })">
        <div class="wide">
          <FileDrop v-model="file" :label="`${list.title} as CSV or XLSX`" accept=".csv,.xlsx" />
          <p class="muted columns">
            Columns:
            <template v-for="([c, column], i) in Object.entries(list.columns)" :key="c"
              ><template v-if="i">, </template><span class="mono">{{ headerOf(c) }}</span
              ><template v-if="column.optional"> (may be missing)</template></template
            >
          </p>
          <p v-if="busy && !preview" class="muted" role="status">Reading …</p>
          <p v-if="besides([])" class="fault" role="alert">{{ besides([]) }}</p>
        </div>
        <div v-if="preview" class="wide" role="status">
          <p>
            <strong>{{ showCount(preview.rows) }}</strong> can be added.
            <template v-if="preview.ignored.length"
              >Left aside, as nobody asks for it: {{ preview.ignored.join(', ') }}.</template
            >
          </p>
          <RowFaults v-if="preview.faulty" :faults="preview.faults" :count="preview.faulty" />
        </div>
        <template #acts>
          <ElButton size="large" @click="way = 'none'">Back</ElButton>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="!preview || preview.faulty > 0 || preview.rows === 0"
            >Add {{ preview && !preview.faulty ? showCount(preview.rows) : 'all' }}</ElButton
          >
        </template>
      </PlanForm>
      <section v-if="drawn && line" class="sheet drawing" :aria-label="`On ${line.name}`">
        <p class="muted small">On {{ line.name }}</p>
        <LineLongSection :profile="line.profile" :ground="[]" v-bind="onLine" />
      </section>
      <Notice
        v-if="data.total === 0"
        :empty="`No ${list.one} yet`"
        hint="Add one by hand, or bring a file with many."
      />
      <div v-else class="sheet scroll" tabindex="0" role="region" :aria-label="list.title">
        <table class="figures">
          <thead>
            <tr>
              <th v-for="[c, column] in shown" :key="c">{{ column.title }}</th>
              <th v-if="removable || list.correctable"><span class="visually-hidden">Change</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in data.rows" :key="i">
              <td v-for="[c, column] in shown" :key="c" :class="{ long: longer.has(c) }">
                {{ cell(r[c], column) }}
              </td>
              <td v-if="removable" class="act">
                <ElButton size="large" @click="askOff(String(r[list.name!]))">Take off</ElButton>
              </td>
              <td v-else-if="list.correctable" class="act">
                <ElButton size="large" @click="correct(r)">Put right</ElButton>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="data.rows.length < data.total" class="row">
        <span class="muted grow">{{ showCount(data.rows.length) }} of {{ showCount(data.total) }} shown</span>
        <ElButton size="large" :loading="more.busy.value" @click="loadMore">Show more</ElButton>
      </p>
      <AskDialog
        v-model="offOpen"
        :title="`Take ${leaving} off the plan`"
        label="Why"
        action="Take it off"
        :send="off"
      >
        <p class="muted">Only what bears nothing yet goes. What it was stays in the record.</p>
      </AskDialog>
    </template>
  </div>
</template>

<style scoped>
.lists {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 18px;
}
.lists a,
.take {
  display: flex;
  align-items: center;
  min-height: 44px;
  padding: 0 14px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  color: var(--ink);
  text-decoration: none;
}
.lists a[aria-current] {
  border-color: var(--line);
  background: var(--line);
  color: var(--card);
}
.columns {
  margin: 10px 0 0;
  line-height: 1.7;
}
.drawing,
.shown {
  padding: 16px 20px;
  margin: 16px 0;
}
td.act {
  position: sticky;
  right: 0;
  background: var(--card);
}
.scroll {
  /* What only listeners read stays inside. */
  position: relative;
  margin-top: 16px;
  overflow: auto;
  max-height: 60vh;
}
.scroll td,
.scroll th {
  white-space: nowrap;
}
.scroll td.long {
  min-width: 260px;
  white-space: normal;
}
.done {
  padding: 12px 16px;
  border-left: 4px solid var(--accepted);
}
</style>
