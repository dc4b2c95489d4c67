<script setup lang="ts">
import { checkOf, type CheckEmits, type CheckProps } from './form'

/** How many there are. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const question = computed(() => checkOf<'count'>(props.step).question)
const typed = ref('')
const valid = computed(() => /^\d+([.,]\d+)?$/.test(typed.value))
const record = () =>
  emit('answer', [{ kind: 'count', payload: { count: Number(typed.value.replace(',', '.')) } }])
</script>

<template>
  <form class="row wrap" @submit.prevent="record">
    <ElInput
      v-model="typed"
      size="large"
      inputmode="decimal"
      :placeholder="question"
      :aria-label="question"
      class="grow"
    />
    <ElButton size="large" type="primary" native-type="submit" :disabled="!valid" :loading="busy"
      >Record</ElButton
    >
  </form>
</template>
