<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { use } from 'echarts/core'
import { LineChart, ScatterChart } from 'echarts/charts'
import {
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { evenly } from '#core/pressure/slope'
import { showBare } from '#core/quantity/show'
import { savePicture } from '~/charts/picture'
import { pageColours, traceOption, type TraceShown } from '~/charts/trace'

/** The trace, live or kept: zoomed, read as a table, saved as a picture. */
use([
  ...[LineChart, ScatterChart, GridComponent, MarkAreaComponent, MarkLineComponent],
  ...[TooltipComponent, DataZoomComponent, SVGRenderer],
])
const props = defineProps<{ shown: TraceShown; name: string; tall?: boolean }>()
const { shift } = useShift()
/** the last phase alone, where what is judged happens */
const phase = computed(() => props.shown.evaluation?.phases.at(-1) ?? null)
const onlyPhase = ref(false)
const option = computed(() => {
  void shift.value
  return traceOption(props.shown, pageColours(), onlyPhase.value ? phase.value : null)
})
const chart = ref<InstanceType<typeof VChart> | null>(null)
const asTable = ref(false)
/** so many rows are read without tiring */
const READ = 120
const rows = computed(() => (asTable.value ? evenly(props.shown.samples, READ) : []))
const figure = (value: number | null, unit: string, digits: number) =>
  value === null ? '–' : showBare(value, unit, digits)
const times = useTimes()
const timeOf = (t: number) => times.second((props.shown.startedAt ?? 0) + t * 1000)
function save() {
  const svg = chart.value?.$el.querySelector('svg') as SVGSVGElement | null
  if (svg) void savePicture(svg, `${props.name}-trace.png`)
}
</script>

<template>
  <div class="trace-frame">
    <VChart
      v-show="!asTable"
      ref="chart"
      class="trace"
      :class="{ tall }"
      :option="option"
      autoresize
      :init-options="{ renderer: 'svg' }"
      role="img"
      aria-label="Pressure over time"
    />
    <div v-if="asTable" class="table" :class="{ tall }" tabindex="0">
      <table class="figures">
        <thead>
          <tr>
            <th scope="col">Time</th>
            <th scope="col" class="number">Pressure, {{ unitShown('kPa') }}</th>
            <th scope="col" class="number">Pipe, {{ unitShown('°C') }}</th>
            <th scope="col" class="number">Air, {{ unitShown('°C') }}</th>
            <th scope="col" class="number">Water added, {{ unitShown('L') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in rows" :key="s.t">
            <td>{{ timeOf(s.t) }}</td>
            <td class="number">{{ figure(s.pressure, 'kPa', 5) }}</td>
            <td class="number">{{ figure(s.pipe, '°C', 3) }}</td>
            <td class="number">{{ figure(s.air, '°C', 3) }}</td>
            <td class="number">{{ figure(s.makeup, 'L', 4) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="tools">
      <slot />
      <button type="button" :aria-pressed="asTable" @click="asTable = !asTable">
        {{ asTable ? 'Curve' : 'Read as a table' }}
      </button>
      <button
        v-if="phase && !asTable"
        type="button"
        :aria-pressed="onlyPhase"
        @click="onlyPhase = !onlyPhase"
      >
        {{ onlyPhase ? 'Whole test' : `Only: ${phase.title}` }}
      </button>
      <button v-if="!asTable" type="button" @click="save">Save the picture</button>
    </p>
  </div>
</template>

<style scoped>
.trace,
.table {
  height: 300px;
  width: 100%;
}
.tall {
  height: min(56vh, 560px);
}
.table {
  overflow-y: auto;
}
.tools {
  display: flex;
  gap: 4px 16px;
  justify-content: flex-end;
  align-items: center;
  flex-wrap: wrap;
}
.tools button {
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--line);
  text-decoration: underline;
  cursor: pointer;
  padding: 0 4px;
}
</style>
