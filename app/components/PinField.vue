<script setup lang="ts">
/** Where a person types the PIN or password that a signature asks for again. */
const secret = defineModel<string>({ required: true })
const { label = 'PIN or password' } = defineProps<{ label?: string }>()
</script>

<template>
  <FormField :label="label"
    ><ElInput
      v-model="secret"
      type="password"
      inputmode="numeric"
      autocomplete="off"
      maxlength="200"
      size="large"
  /></FormField>
</template>
