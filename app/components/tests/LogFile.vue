<script setup lang="ts">
import type { FileLook } from '../../../server/services/heavy/log'
import type { LogMap } from '#core/pressure/log-map'
import { useSession } from '~/stores/session'
import { testVerdictWords } from '~/words'

/** A logger's file before it is taken: which column is which, what only a person can say, and what it says. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  path: string
  file: File | null
  send: (log: { csv: string; map: LogMap }) => Promise<void>
}>()
const session = useSession()
const times = useTimes()
const csv = ref('')
const said = ref<Partial<LogMap>>({})
const look = shallowRef<FileLook | null>(null)
const fault = ref('')
const busy = ref(false)

async function read() {
  busy.value = true
  fault.value = ''
  try {
    look.value = await api<FileLook>(`${props.path}/look`, { body: { csv: csv.value, map: said.value } })
  } catch (error) {
    look.value = null
    fault.value = problemOf(error, 'The file could not be read.').message
  } finally {
    busy.value = false
  }
}
watch(open, async (now) => {
  if (!now || !props.file) return
  look.value = null
  said.value = {}
  csv.value = await props.file.text()
  await read()
})
function say(change: Partial<LogMap>) {
  said.value = { ...said.value, ...change }
  void read()
}
async function take() {
  busy.value = true
  fault.value = ''
  try {
    await props.send({ csv: csv.value, map: look.value!.map })
    open.value = false
  } catch (error) {
    fault.value = problemOf(error, 'The log was not taken.').message
  } finally {
    busy.value = false
  }
}

/** where a logger's clock is likely set; any other zone can be typed */
const zones = computed(() => [...new Set([session.zone, 'UTC'])])
const map = computed(() => look.value?.map)
const asks = computed(() => new Set<string>(look.value?.asks ?? []))
const columns = [
  { key: 'time', title: 'Time' },
  { key: 'pressure', title: 'Pressure' },
  { key: 'pipe', title: 'Pipe temperature' },
  { key: 'air', title: 'Air temperature' },
  { key: 'makeup', title: 'Water added' },
] as const
const faults = computed(
  () => (look.value?.fault?.details?.faults ?? []) as { row: number; column: string; message: string }[],
)
/** the shape of the log, to see at a glance whether it is the right one */
const [W, H] = [760, 120]
const shape = computed(() => {
  const trace = look.value?.read?.trace ?? []
  if (trace.length < 2) return ''
  const [low, high] = [Math.min(...trace.map((s) => s.pressure)), Math.max(...trace.map((s) => s.pressure))]
  const last = trace.at(-1)!.t || 1
  return trace
    .map(
      (s) =>
        `${((s.t / last) * W).toFixed(1)},${(H - 4 - ((s.pressure - low) / (high - low || 1)) * (H - 8)).toFixed(1)}`,
    )
    .join(' ')
})
</script>

<template>
  <ElDialog
    v-model="open"
    :title="`Log from ${file?.name ?? 'a file'}`"
    width="min(860px, 96vw)"
    align-center
  >
    <div v-if="look && map" class="form">
      <div class="grid">
        <label v-for="c in columns" :key="c.key" :class="{ asked: asks.has(c.key) }"
          >{{ c.title
          }}<ElSelect
            :model-value="map[c.key] ?? ''"
            :aria-label="c.title"
            placeholder="not in the file"
            :clearable="c.key !== 'time' && c.key !== 'pressure'"
            @change="
              (h: string) => say({ [c.key]: h || (c.key === 'time' || c.key === 'pressure' ? '' : null) })
            "
            ><ElOption v-for="h in look.header" :key="h" :value="h" :label="h" /></ElSelect
        ></label>
        <label :class="{ asked: asks.has('pressureUnit') }"
          >Pressure is in<ElSelect
            :model-value="map.pressureUnit ?? ''"
            aria-label="Unit of the pressure"
            @change="(pressureUnit) => say({ pressureUnit })"
            ><ElOption
              v-for="u in ['kPa', 'bar', 'mbar', 'Pa', 'psi']"
              :key="u"
              :value="u"
              :label="u" /></ElSelect
        ></label>
        <label v-if="map.makeup" :class="{ asked: asks.has('makeupUnit') }"
          >Water is in<ElSelect
            :model-value="map.makeupUnit ?? ''"
            aria-label="Unit of the water"
            @change="(makeupUnit) => say({ makeupUnit })"
            ><ElOption
              v-for="[u, word] in [
                ['L', 'L'],
                ['mL', 'mL'],
                ['m3', 'm³'],
                ['gal', 'gal'],
              ]"
              :key="u"
              :value="u"
              :label="word" /></ElSelect
        ></label>
        <label v-if="map.makeup"
          >Each row says<ElSelect
            :model-value="map.makeupEach"
            aria-label="What the rows of water say"
            @change="(each: boolean) => say({ makeupEach: each })"
            ><ElOption :value="false" label="the total so far" /><ElOption
              :value="true"
              label="what was added since the last" /></ElSelect
        ></label>
        <label
          v-if="asks.has('form') || map.form === 'day-first' || map.form === 'month-first'"
          :class="{ asked: asks.has('form') }"
          >In its dates<ElSelect
            :model-value="asks.has('form') ? '' : map.form"
            aria-label="Which stands first in the dates"
            placeholder="say which"
            @change="(form) => say({ form })"
            ><ElOption value="day-first" label="the day stands first" /><ElOption
              value="month-first"
              label="the month stands first" /></ElSelect
        ></label>
        <label v-if="map.form === 'elapsed'" :class="{ asked: asks.has('begin') }"
          >It began<ElDatePicker
            type="datetime"
            :model-value="map.begin ?? ''"
            aria-label="When the log began"
            format="D MMM YYYY HH:mm:ss"
            @update:model-value="(at: Date | null) => say({ begin: at ? at.toISOString() : null })"
        /></label>
        <label v-else :class="{ asked: asks.has('zone') }"
          >Its clock is set to<ElSelect
            :model-value="map.zone ?? ''"
            aria-label="Zone of the logger’s clock"
            placeholder="say where"
            filterable
            allow-create
            @change="(zone: string) => say({ zone })"
            ><ElOption v-for="z in zones" :key="z" :value="z" :label="z" /></ElSelect
        ></label>
      </div>
      <div class="head" tabindex="0">
        <table class="figures">
          <thead>
            <tr>
              <th v-for="h in look.header" :key="h" scope="col">{{ h }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(r, i) in look.rows.slice(0, 3)" :key="i">
              <td v-for="h in look.header" :key="h">{{ r[h] }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <template v-if="look.read">
        <svg :viewBox="`0 0 ${W} ${H}`" class="shape" role="img" aria-label="Shape of the log">
          <polyline :points="shape" fill="none" stroke="var(--line)" stroke-width="2" />
        </svg>
        <p>
          {{ look.read.samples }} readings, {{ times.moment(look.read.startedAt) }} to
          {{ times.moment(look.read.endedAt) }}.
          <strong v-if="look.evaluation">{{ testVerdictWords[look.evaluation.verdict] }}.</strong>
          {{ look.evaluation?.sentence }}
        </p>
      </template>
      <p v-if="asks.size > 0" class="muted">Say what is marked: nothing of it is guessed.</p>
      <p v-if="look.fault" class="fault" role="alert">{{ look.fault.message }}</p>
      <ul v-if="faults.length > 1" class="faults" tabindex="0" aria-label="Faults">
        <li v-for="f in faults" :key="f.row + f.column">Row {{ f.row }}, {{ f.column }}: {{ f.message }}</li>
      </ul>
    </div>
    <p v-else-if="!fault" class="muted">Reading the file …</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div class="actions">
      <ElButton size="large" @click="open = false">Back</ElButton>
      <ElButton size="large" type="primary" :loading="busy" :disabled="!look?.evaluation" @click="take"
        >Take the log</ElButton
      >
    </div>
  </ElDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px 16px;
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
.asked {
  color: var(--rejected);
  font-weight: 600;
}
.head {
  overflow-x: auto;
}
.shape {
  width: 100%;
  height: 120px;
  border: 1px solid var(--hair);
}
.faults {
  max-height: 140px;
  overflow-y: auto;
}
.actions {
  margin-top: 14px;
}
</style>
