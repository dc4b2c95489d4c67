<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showMetres, showQuantity } from '#core/quantity/show'
import type { Made } from '#core/checks/define'
import { levelFigures, runOf, type LevelRow, type LevelsCheck } from '#core/checks/levels'
import { Problem } from '#core/problem'
import type { CheckEmits, CheckForm, CheckProps } from './form'
import { typedQuantity } from './typed'

/** A level book: sights row by row, levels worked out while they are typed. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const columns = ['backsight', 'intermediate', 'foresight', 'station', 'design'] as const
type Typed = Record<(typeof columns)[number], string>
const titles: Record<(typeof columns)[number], string> = {
  backsight: 'Back',
  intermediate: 'Between',
  foresight: 'Fore',
  station: `Station, ${unitShown('m')}`,
  design: `Design, ${unitShown('m')}`,
}
const empty = (): Typed => ({ backsight: '', intermediate: '', foresight: '', station: '', design: '' })
const typed = ref<Typed[]>([empty(), empty()])
const figures = computed(() => levelFigures(props.step as unknown as Made<LevelsCheck>, props.slots))

const number = (text: string) => typedQuantity(text, 'length', 'm')
const rows = computed<LevelRow[]>(() =>
  typed.value
    .filter((row) => columns.some((c) => row[c].trim() !== ''))
    .map((row) =>
      Object.fromEntries(columns.filter((c) => row[c].trim() !== '').map((c) => [c, number(row[c])])),
    ),
)
const run = computed(() => {
  const { start, close, distance } = figures.value
  if (Number.isNaN(start) || rows.value.length < 2) return null
  try {
    return { ...runOf(rows.value, start, close, distance), fault: '' }
  } catch (error) {
    if (error instanceof Problem) return { levels: [], misclosure: null, allowed: null, fault: error.message }
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
watch(run, (r) => emit('ready', r && !r.fault ? { kind: 'levels', payload: { rows: rows.value } } : null))
const level = (i: number) => run.value?.levels[i]
const mm = (m: number) => showQuantity(m, 'length', 'mm', 3)
defineExpose<CheckForm>({ clear: () => (typed.value = [empty(), empty()]) })
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <p class="muted">
      Benchmark {{ showMetres(figures.start, 3) }}. Sights in {{ unitShown('m') }}; a row with a design is a
      pipe.
    </p>
    <div class="book">
      <table class="figures">
        <thead>
          <tr>
            <th v-for="c in columns" :key="c">{{ titles[c] }}</th>
            <th class="number">Level, {{ unitShown('m') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in typed" :key="i">
            <td v-for="c in columns" :key="c">
              <ElInput v-model="row[c]" inputmode="decimal" :aria-label="`${titles[c]}, row ${i + 1}`" />
            </td>
            <td class="number">{{ level(i) === undefined ? '' : showMetres(level(i)!, 3, false) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="run?.fault" class="muted" role="status">{{ run.fault }}</p>
    <p v-else-if="run?.misclosure != null" role="status">
      Closes <strong>{{ mm(run.misclosure) }}</strong> off<template v-if="run.allowed != null"
        >, at most {{ mm(run.allowed) }}</template
      >
    </p>
  </form>
</template>

<style scoped>
.book {
  overflow-x: auto;
}
td {
  padding: 2px 4px;
  min-width: 84px;
}
</style>
