<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showMetres, showQuantity } from '#core/quantity/show'
import { levelBook, type LevelBooking, type LevelRow } from '#core/calculators/level-book'
import type { Made } from '#core/checks/define'
import { levelFigures, runOf, type LevelsCheck } from '#core/checks/levels'
import { Problem } from '#core/problem'
import type { CheckEmits, CheckForm, CheckProps } from './form'
import LevelFile from './LevelFile.vue'
import LevelReduction from './LevelReduction.vue'
import { typedQuantity } from './typed'

/** A level book, or what is read off a laser’s beam: levels are worked out both ways while they are typed. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const columns = ['backsight', 'intermediate', 'foresight', 'station', 'design'] as const
type Typed = Record<(typeof columns)[number], string>
const titles = computed<Record<(typeof columns)[number], string>>(() => ({
  backsight: 'Back',
  intermediate: beam.on ? 'Reading' : 'Between',
  foresight: beam.on ? 'Last' : 'Fore',
  station: `Station, ${unitShown('m')}`,
  design: `Design, ${unitShown('m')}`,
}))
const empty = (): Typed => ({ backsight: '', intermediate: '', foresight: '', station: '', design: '' })
const typed = ref<Typed[]>([empty(), empty()])
const beam = reactive({ on: false, station: '', grade: '' })
const figures = computed(() => levelFigures(props.step as unknown as Made<LevelsCheck>, props.slots))

const number = (text: string) => typedQuantity(text, 'length', 'm')
/** a cell that is no length is not taken for an empty one */
const unread = computed(() =>
  typed.value.findIndex((row) => columns.some((c) => row[c].trim() !== '' && number(row[c]) === null)),
)
const rows = computed<LevelRow[]>(() =>
  typed.value
    .filter((row) => columns.some((c) => row[c].trim() !== ''))
    .map((row) =>
      Object.fromEntries(columns.filter((c) => row[c].trim() !== '').map((c) => [c, number(row[c])])),
    ),
)
const laser = computed(() => {
  const [station, grade] = [number(beam.station), typedQuantity(beam.grade, 'ratio', '%')]
  return station === null || grade === null ? null : { station, grade }
})
const booking = computed<LevelBooking>(() => ({
  rows: rows.value,
  ...(beam.on && laser.value ? { laser: laser.value } : {}),
}))
const run = computed(() => {
  const { start, close, distance } = figures.value
  if (Number.isNaN(start) || rows.value.length < 2 || (beam.on && !laser.value)) return null
  if (unread.value >= 0) return { fault: `Row ${unread.value + 1} holds what is no length.` }
  try {
    const { misclosure, allowed } = runOf(booking.value, start, close, distance)
    return { book: levelBook(booking.value, start), misclosure, allowed, fault: '' }
  } catch (error) {
    if (error instanceof Problem) return { fault: error.message }
    throw error
  }
})
// The next row is there before it is asked for.
watch(
  typed,
  (list) => {
    if (columns.some((c) => list.at(-1)![c].trim() !== '')) typed.value.push(empty())
  },
  { deep: true },
)
watch(run, (r) => emit('ready', r && !r.fault ? { kind: 'levels', payload: { ...booking.value } } : null))

const fileOpen = ref(false)
/** Rows of a file stand in the book, to be read over and corrected before they are recorded. */
function put(list: readonly LevelRow[]) {
  const text = (v: number | null | undefined) =>
    v === null || v === undefined ? '' : showMetres(v, 4, false).replace('−', '-')
  typed.value = [
    ...list.map((row) => Object.fromEntries(columns.map((c) => [c, text(row[c])])) as Typed),
    empty(),
  ]
}
const mm = (m: number) => showQuantity(m, 'length', 'mm', 3)
defineExpose<CheckForm>({ clear: () => (typed.value = [empty(), empty()]) })
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <div class="how">
      <ElRadioGroup v-model="beam.on" aria-label="Read through">
        <ElRadioButton :value="false">Level</ElRadioButton>
        <ElRadioButton :value="true">Laser</ElRadioButton>
      </ElRadioGroup>
      <ElButton @click="fileOpen = true">From a file</ElButton>
    </div>
    <p class="muted">
      Benchmark {{ showMetres(figures.start, 3) }}. {{ beam.on ? 'Readings' : 'Sights' }} in
      {{ unitShown('m') }}; a row with a design is a pipe.
      <template v-if="beam.on"
        >The first row is the beam over the benchmark; the others are read from the beam down to the
        invert.</template
      >
    </p>
    <div v-if="beam.on" class="two">
      <label
        >Beam starts at, {{ unitShown('m')
        }}<ElInput v-model="beam.station" inputmode="decimal" autocomplete="off"
      /></label>
      <label
        >Falls toward rising stations, %<ElInput v-model="beam.grade" inputmode="decimal" autocomplete="off"
      /></label>
    </div>
    <div class="book">
      <table class="figures">
        <thead>
          <tr>
            <th v-for="c in columns" :key="c">{{ titles[c] }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in typed" :key="i">
            <td v-for="c in columns" :key="c">
              <ElInput v-model="row[c]" inputmode="decimal" :aria-label="`${titles[c]}, row ${i + 1}`" />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="run?.fault" class="muted" role="status">{{ run.fault }}</p>
    <template v-else-if="run?.book">
      <LevelReduction :book="run.book" :rows="rows" />
      <p v-if="run.misclosure != null" role="status">
        Closes <strong>{{ mm(run.misclosure) }}</strong> off<template v-if="run.allowed != null"
          >, at most {{ mm(run.allowed) }}</template
        >
      </p>
    </template>
    <LevelFile v-model="fileOpen" @take="put" />
  </form>
</template>

<style scoped>
.how {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: space-between;
}
.book {
  overflow-x: auto;
}
td {
  padding: 2px 4px;
  min-width: 84px;
}
</style>
