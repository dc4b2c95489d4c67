<script setup lang="ts">
/** A calendar day, shown as the product writes days; an empty text for none. */
const day = defineModel<string>({ required: true })
defineProps<{ label: string; disabled?: boolean }>()
const picked = computed({
  get: () => day.value || null,
  set: (value: string | null) => (day.value = value ?? ''),
})
</script>

<template>
  <span class="day">
    <span class="muted">{{ label }}</span>
    <ElDatePicker
      v-model="picked"
      type="date"
      size="large"
      format="D MMM YYYY"
      value-format="YYYY-MM-DD"
      placeholder="Choose a day"
      :disabled="disabled"
      :aria-label="label"
    />
  </span>
</template>

<style scoped>
.day {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  font-size: var(--s14);
}
.day :deep(.el-date-editor.el-input) {
  width: 100%;
}
</style>
