<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'

/** A station, or a length along a line, in the unit of the site unless another is typed. */
const text = defineModel<string>({ required: true })
defineProps<{ label: string; fault?: string }>()
</script>

<template>
  <FormField :label="label" :fault="fault"
    ><ElInput v-model="text" size="large" maxlength="40"
      ><template #suffix>{{ unitShown('m') }}</template></ElInput
    ></FormField
  >
</template>
