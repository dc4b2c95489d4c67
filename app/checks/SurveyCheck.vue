<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showSteps } from '#core/quantity/show'
import type { Made } from '#core/checks/define'
import { surveyFigures, type SurveyCheck } from '#core/checks/survey'
import type { CheckEmits, CheckForm, CheckProps } from './form'
import { typedQuantity } from './typed'

/** Diameters by station; the deflection is worked out while they are typed. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const figures = computed(() => surveyFigures(props.step as unknown as Made<SurveyCheck>, props.slots))
const empty = () => ({ station: '', vertical: '', horizontal: '' })
const typed = ref([empty()])
const reason = ref('')
const read = (text: string, bareUnit: string) => typedQuantity(text, 'length', bareUnit)
const rows = computed(() =>
  typed.value.flatMap((row) => {
    const [station, vertical, horizontal] = [
      read(row.station, 'm'),
      read(row.vertical, 'mm'),
      read(row.horizontal, 'mm'),
    ]
    return station === null || vertical === null
      ? []
      : [{ station, vertical, ...(horizontal === null ? {} : { horizontal }) }]
  }),
)
watch(
  typed,
  (list) => {
    if (list.at(-1)!.station.trim() !== '') typed.value.push(empty())
  },
  { deep: true },
)
watch([rows, reason], () =>
  emit(
    'ready',
    rows.value.length > 0
      ? {
          kind: 'survey',
          payload: { rows: rows.value, ...(reason.value.trim() ? { reason: reason.value.trim() } : {}) },
        }
      : null,
  ),
)
const deflection = (text: string) => {
  const vertical = read(text, 'mm')
  return vertical === null
    ? ''
    : `${(((figures.value.base - vertical) / figures.value.base) * 100).toFixed(1)} %`
}
defineExpose<CheckForm>({
  clear() {
    typed.value = [empty()]
    reason.value = ''
  },
})
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <p class="muted">Round it measures {{ showSteps(figures.base, 'mm') }} inside.</p>
    <table class="figures">
      <thead>
        <tr>
          <th>Station, {{ unitShown('m') }}</th>
          <th>Upright, {{ unitShown('mm') }}</th>
          <th>Across, {{ unitShown('mm') }}</th>
          <th class="number">Deflected</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in typed" :key="i">
          <td><ElInput v-model="row.station" inputmode="decimal" :aria-label="`Station, row ${i + 1}`" /></td>
          <td>
            <ElInput v-model="row.vertical" inputmode="decimal" :aria-label="`Upright, row ${i + 1}`" />
          </td>
          <td>
            <ElInput v-model="row.horizontal" inputmode="decimal" :aria-label="`Across, row ${i + 1}`" />
          </td>
          <td class="number">{{ deflection(row.vertical) }}</td>
        </tr>
      </tbody>
    </table>
    <label v-if="judged.faults.length > 0" class="muted small"
      >Why is a station measured again?<ElInput v-model="reason" size="large" maxlength="400"
    /></label>
  </form>
</template>
