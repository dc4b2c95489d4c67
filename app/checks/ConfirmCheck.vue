<script setup lang="ts">
import { checkOf, type CheckEmits, type CheckForm, type CheckProps } from './form'

/** Yes or no; also whether a mark is drawn. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const question = computed(() => checkOf<'confirm' | 'gathered' | 'mark'>(props.step).question)
const say = (answer: 'yes' | 'no') => emit('answer', [{ kind: 'confirmation', payload: { answer } }])
defineExpose<CheckForm>({ say })
</script>

<template>
  <div class="part">
    <p class="question">{{ question }}</p>
    <div class="row wrap">
      <ElButton size="large" type="primary" class="big" :loading="busy" @click="say('yes')">Yes</ElButton>
      <ElButton size="large" class="big" :disabled="busy" @click="say('no')">No</ElButton>
    </div>
  </div>
</template>
