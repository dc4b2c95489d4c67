<script setup lang="ts">
import type { LevelRow } from '#core/calculators/level-book'
import {
  levelColumns,
  levelFileUnits,
  readLevelFile,
  type LevelFileRead,
  type LevelFileUnit,
} from '#core/embedment/level-file'
import { guessMapping, unmapped, type Mapping } from '#core/files/columns'
import { readCsv, type Table } from '#core/files/table'
import { Problem } from '#core/problem'
import { useLocalStorage } from '@vueuse/core'

/** Sights from an instrument’s file: which column is which, what could not be read, and then into the book. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ take: [LevelRow[]] }>()
const table = shallowRef<Table | null>(null)
const name = ref('')
const fault = ref('')
const mapping = ref<Mapping>({})
/** as it was said for the file before: an instrument writes as it wrote yesterday */
const kept = useLocalStorage<Mapping>('level-file-columns', {})
const unit = useLocalStorage<LevelFileUnit>('level-file-unit', 'm')
const missing = computed(() => unmapped(levelColumns, mapping.value).map((c) => c.key))
const read = computed<LevelFileRead | null>(() => {
  if (!table.value || missing.value.length > 0) return null
  return readLevelFile(table.value, mapping.value, unit.value)
})
const ready = computed(
  () => read.value !== null && read.value.faults.length === 0 && read.value.rows.length > 1,
)
async function look(file: File) {
  fault.value = ''
  table.value = null
  name.value = file.name
  try {
    const found = readCsv(new Uint8Array(await file.arrayBuffer()))
    mapping.value = guessMapping(levelColumns, found.header, kept.value)
    table.value = found
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    fault.value = error.message
  }
}
function take() {
  kept.value = mapping.value
  emit('take', read.value!.rows)
  open.value = false
}
watch(open, (now) => now && ((table.value = null), (fault.value = ''), (name.value = '')))
</script>

<template>
  <DialogForm
    v-model="open"
    title="Sights from a file"
    action="Put into the book"
    width="min(720px, 96vw)"
    :busy="false"
    :fault="fault"
    :ready="ready"
    @send="take"
  >
    <div class="row">
      <FileButton
        :label="name ? 'Another file' : 'Choose the file'"
        name="A table of the instrument, CSV"
        accept=".csv,.txt,text/csv,text/plain"
        @chosen="look"
      />
      <span class="muted">{{ name || 'A table of the instrument, CSV' }}</span>
    </div>
    <template v-if="table">
      <ColumnMapping
        :columns="levelColumns"
        :header="table.header"
        :mapping="mapping"
        :remembered="Object.keys(kept).length > 0"
        :unmapped="missing"
        @change="(m) => (mapping = m)"
      />
      <div class="row wrap">
        <span id="level-unit" class="muted">Bare numbers are in</span>
        <ElRadioGroup v-model="unit" aria-labelledby="level-unit">
          <ElRadioButton v-for="u in levelFileUnits" :key="u" :value="u">{{ u }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <ul v-if="read && read.faults.length > 0" class="faults" role="alert">
        <li v-for="f in read.faults.slice(0, 8)" :key="`${f.row} ${f.column}`">
          Row {{ f.row }}, {{ f.column }}: {{ f.message }}
        </li>
        <li v-if="read.faults.length > 8">and {{ read.faults.length - 8 }} more</li>
      </ul>
      <p v-else-if="read" role="status">{{ read.rows.length }} sights in {{ name }}.</p>
    </template>
  </DialogForm>
</template>

<style scoped>
.wrap {
  flex-wrap: wrap;
}
.faults {
  margin: 0;
  padding-left: 20px;
  color: var(--rejected);
}
</style>
