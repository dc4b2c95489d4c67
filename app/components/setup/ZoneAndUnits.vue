<script setup lang="ts">
import { siteUnits, type SiteUnits } from '#core/quantity/site-units'
import { unitsWords } from '~/words'

/** Where the days of a project begin, and what its figures are shown in. */
const zone = defineModel<string>('zone', { required: true })
const units = defineModel<SiteUnits>('units', { required: true })
defineProps<{ fault: string }>()
const zones = Intl.supportedValuesOf('timeZone')
</script>

<template>
  <FormField label="Time zone of the site" group :fault="fault">
    <ElSelect v-model="zone" filterable size="large" aria-label="Time zone of the site"
      ><ElOption v-for="z in zones" :key="z" :value="z" :label="z.replaceAll('_', ' ')"
    /></ElSelect>
  </FormField>
  <FormField label="Figures are shown in" group class="wide">
    <ElRadioGroup v-model="units" aria-label="Figures are shown in">
      <ElRadio v-for="u in siteUnits" :key="u" :value="u">{{ unitsWords[u] }}</ElRadio>
    </ElRadioGroup>
  </FormField>
</template>
