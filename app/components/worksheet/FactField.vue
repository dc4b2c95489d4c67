<script setup lang="ts">
import { unitOfFact } from '#core/procedure/facts'
import { readQuantity } from '#core/quantity/read'
import { showQuantity } from '#core/quantity/show'
import type { ProcedureFact } from '#core/procedure/types'

/** One fact of a joint: a number with its unit, one of a few words, or yes and no. */
const props = defineProps<{ fact: ProcedureFact; fault?: string }>()
const value = defineModel<string | boolean>({ required: true })
const bound = (text?: string) => {
  const { dimension } = props.fact
  if (text === undefined) return '…'
  if (dimension === 'flag' || dimension === 'word') return text
  return showQuantity(
    readQuantity(text, dimension, { bareUnit: props.fact.unit }),
    dimension,
    props.fact.unit,
  )
}
const hint = computed(() =>
  props.fact.min !== undefined || props.fact.max !== undefined
    ? `${bound(props.fact.min)} to ${bound(props.fact.max)}`
    : '',
)
</script>

<template>
  <div class="fact">
    <span class="title"
      >{{ fact.title }}<span v-if="fact.optional" class="muted"> (where there is one)</span></span
    >
    <ElRadioGroup v-if="fact.dimension === 'flag'" v-model="value" :aria-label="fact.title"
      ><ElRadioButton :value="true">Yes</ElRadioButton
      ><ElRadioButton :value="false">No</ElRadioButton></ElRadioGroup
    >
    <ElRadioGroup v-else-if="fact.choices" v-model="value" :aria-label="fact.title"
      ><ElRadioButton v-for="c in fact.choices" :key="c" :value="c">{{ c }}</ElRadioButton></ElRadioGroup
    >
    <ElInput
      v-else
      v-model="value as string"
      size="large"
      :aria-label="fact.title"
      :placeholder="hint"
      maxlength="40"
      ><template v-if="fact.unit" #suffix>{{ unitOfFact(fact) }}</template></ElInput
    >
    <span v-if="fault" class="fault" role="alert">{{ fault }}</span>
  </div>
</template>

<style scoped>
.fact {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
}
.title {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
