<script setup lang="ts">
import { use } from 'echarts/core'
import { LineChart } from 'echarts/charts'
import {
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { Sample } from '#core/pressure/log'
import type { TestEvaluation } from '#core/pressure/report'
import { pageColours, traceOption } from '~/charts/trace'

/** The trace, live or kept. The table under it reads the same. */
use([
  LineChart,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  DataZoomComponent,
  SVGRenderer,
])
const props = defineProps<{
  samples: Sample[]
  evaluation: TestEvaluation | null
  testPressure: number
  band: number
  trend?: { from: number; to: number; slope: number; half: number } | null
}>()
const { shift } = useShift()
const option = computed(() => {
  void shift.value
  return traceOption(
    props.samples,
    props.evaluation,
    props.testPressure,
    props.band,
    pageColours(),
    props.trend ?? null,
  )
})
</script>

<template>
  <VChart
    class="trace"
    :option="option"
    autoresize
    :init-options="{ renderer: 'svg' }"
    role="img"
    aria-label="Pressure over time"
  />
</template>

<style scoped>
.trace {
  height: 300px;
  width: 100%;
}
</style>
