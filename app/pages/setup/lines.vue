<script setup lang="ts">
import { inSite, withUnit } from '#core/quantity/site-units'
import { showBare, showQuantity } from '#core/quantity/show'
import { uuidv7 } from 'uuidv7'
import type { RowFault } from '#core/delivery/note'
import type { ChosenFile } from '~/components/delivery/FileDrop.vue'
import type { readLineFile } from '../../../server/services/lines'
import { useSession } from '~/stores/session'

/** The lines of a project: by hand, from an alignment in GeoJSON, and from a profile as a table. */
type LineFile = Awaited<ReturnType<typeof readLineFile>>
const session = useSession()
const lines = computed(() => session.overview?.lines ?? [])

const editing = ref<string | null>(null)
const open = ref(lines.value.length === 0)
const blank = () => ({ key: '', name: '', material: '', from: '0', to: '', designPressure: '', reason: '' })
const form = reactive(blank())
const taken = ref<Pick<LineFile, 'path' | 'profile' | 'ground'>>({ path: [], profile: [], ground: [] })
const remarks = ref<string[]>([])
const file = ref<ChosenFile | null>(null)
/** lines that a file holds, where one has to be chosen */
const several = ref<string[]>([])
const reading = useSending()
/** what is wrong in the file, by row */
const wrong = computed(() => (reading.fault.value?.details?.rows ?? []) as RowFault[])
const { busy, at, besides, send } = useSending()
const fields = ['key', 'name', 'material', 'from', 'to', 'designPressure', 'reason']

const inThousandths = (station: number) => String(Math.round(inSite(station, 'm') * 1000) / 1000)
function begin(id: string | null) {
  const line = lines.value.find((l) => l.id === id)
  Object.assign(
    form,
    blank(),
    line && { ...line, from: showBare(line.from, 'm', 9), to: showBare(line.to, 'm', 9) },
  )
  taken.value = { path: [], profile: line?.profile ?? [], ground: [] }
  ;[remarks.value, several.value, file.value] = [[], [], null]
  editing.value = id
  open.value = true
}
async function read(which: number | null = null) {
  if (!file.value) return
  several.value = []
  const found = await reading.send(() =>
    api<LineFile>(`${session.base}/lines/read`, { body: { file: file.value, which } }),
  )
  if (!found) {
    const named = reading.fault.value?.details?.lines
    several.value = Array.isArray(named) ? (named as string[]) : []
    return
  }
  remarks.value = found.remarks
  // A profile by itself keeps the alignment that was read before it.
  taken.value = {
    path: found.kind === 'alignment' ? found.path : taken.value.path,
    profile: found.profile.length > 1 ? found.profile : taken.value.profile,
    ground: found.ground.length > 1 ? found.ground : taken.value.ground,
  }
  if (found.name && !form.name) form.name = found.name
  const along = taken.value.path.length > 1 ? taken.value.path : taken.value.profile
  if (along.length > 1) {
    form.from = inThousandths(along[0]!.station)
    form.to = inThousandths(along.at(-1)!.station)
  }
}
watch(file, () => void read())

async function save() {
  const { key, name, material, from, to, designPressure, reason } = form
  const typed = { from: withUnit(from, 'm'), to: withUnit(to, 'm') }
  const pressure = withUnit(designPressure, 'bar')
  const body = { key, name, material, ...typed, designPressure: pressure, ...taken.value }
  const done = await send(() =>
    editing.value
      ? api(`${session.base}/lines/${editing.value}`, { body: { ...body, reason } })
      : api(`${session.base}/lines`, { body: { id: uuidv7(), ...body } }),
  )
  if (!done) return
  open.value = false
  await session.loadProject()
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Lines">
    <SetupTabs />
    <div class="page-head">
      <h1 class="grow">Lines</h1>
      <a
        v-if="!open && lines.some((l) => l.course)"
        class="take"
        :href="`/api/${session.base}/lines/geojson`"
        download
        >Take as GeoJSON</a
      >
      <ElButton v-if="!open" type="primary" size="large" @click="begin(null)">Add a line</ElButton>
    </div>
    <PlanForm v-if="open" @submit="save">
      <div class="wide">
        <FileDrop
          v-model="file"
          label="Alignment (GeoJSON) or profile (CSV, XLSX), where you have one"
          accept=".json,.geojson,.csv,.xlsx"
        />
        <p v-if="reading.fault.value" class="fault" role="alert">{{ reading.fault.value.message }}</p>
        <RowFaults v-if="wrong.length" :faults="wrong" :count="wrong.length" />
        <ul v-if="several.length" class="several">
          <li v-for="(name, i) in several" :key="i">
            <ElButton size="large" @click="read(i)">{{ name }}</ElButton>
          </li>
        </ul>
        <ul v-if="remarks.length" class="remarks">
          <li v-for="r in remarks" :key="r">{{ r }}</li>
        </ul>
        <LineMap v-if="taken.path.length > 1" :path="taken.path" />
        <LineLongSection v-if="taken.profile.length > 1" :profile="taken.profile" :ground="taken.ground" />
      </div>
      <FormField label="Name" :fault="at('name')"
        ><ElInput v-model="form.name" size="large" maxlength="120" placeholder="Tarn Fell sewer"
      /></FormField>
      <FormField label="Key, for numbers" :fault="at('key')"
        ><ElInput v-model="form.key" size="large" maxlength="20" placeholder="TF"
      /></FormField>
      <FormField label="Material" :fault="at('material')"
        ><ElInput v-model="form.material" size="large" maxlength="60" placeholder="concrete"
      /></FormField>
      <FormField label="Design pressure (of a pressure line)" :fault="at('designPressure')"
        ><ElInput
          v-model="form.designPressure"
          size="large"
          maxlength="40"
          :placeholder="showQuantity(1e6, 'pressure', 'bar', 3)"
      /></FormField>
      <StationField v-model="form.from" label="From station" :fault="at('from')" />
      <StationField v-model="form.to" label="To station" :fault="at('to')" />
      <FormField v-if="editing" label="Why it is changed" :fault="at('reason')" class="wide"
        ><ElInput v-model="form.reason" size="large" maxlength="400"
      /></FormField>
      <p v-if="besides(fields)" class="fault wide" role="alert">{{ besides(fields) }}</p>
      <template #acts>
        <ElButton v-if="lines.length" size="large" @click="open = false">Back</ElButton>
        <ElButton
          type="primary"
          size="large"
          native-type="submit"
          :loading="busy"
          :disabled="
            !form.name.trim() ||
            !form.key.trim() ||
            !form.material.trim() ||
            !form.to.trim() ||
            (editing !== null && !form.reason.trim())
          "
          >{{ editing ? 'Change the line' : 'Add the line' }}</ElButton
        >
      </template>
    </PlanForm>
    <ul v-if="lines.length && !open" class="list sheet">
      <li v-for="l in lines" :key="l.id">
        <div class="row">
          <span class="grow"
            ><strong>{{ l.name }}</strong> <span class="muted mono">{{ l.key }}</span><br /><span
              class="muted"
              >{{ l.material }}, stations {{ showBare(l.from, 'm', 7) }} to
              {{ showQuantity(l.to, 'length', 'm', 7) }}</span
            ></span
          >
          <ElButton size="large" @click="begin(l.id)">Change</ElButton>
        </div>
        <LineLongSection :profile="l.profile" :ground="[]" />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.remarks,
.several {
  margin: 10px 0;
  padding-left: 20px;
}
.several {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.take {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 12px;
  color: var(--line);
  font-weight: 600;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.list > li {
  padding: 14px 18px;
  border-bottom: 1px solid var(--hair);
}
</style>
