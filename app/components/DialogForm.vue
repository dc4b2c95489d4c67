<script setup lang="ts">
/**
 * A dialog that asks for something and sends it: its fields in the slot, what was wrong below them, then the
 * way back and the act. It stays open until whoever sends it closes it.
 */
const open = defineModel<boolean>({ required: true })
const {
  width = '520px',
  ready = true,
  danger = false,
} = defineProps<{
  title: string
  action: string
  busy: boolean
  fault?: string
  width?: string
  /** enough is filled in to be sent */
  ready?: boolean
  danger?: boolean
  /** the fields stand in two columns where there is room; one of class `wide` takes both */
  columns?: boolean
}>()
defineEmits<{ send: [] }>()
/** In the work area, above whatever lies there: outside of it its head would be a second head of the page. */
const place = shallowRef<HTMLElement | string>('body')
watch(open, (now) => now && (place.value = document.querySelector('main') ?? 'body'), { immediate: true })
</script>

<template>
  <ElDialog v-model="open" :title="title" :width="width" align-center :append-to="place">
    <form class="form" novalidate @submit.prevent="$emit('send')">
      <div class="fields" :class="{ columns }"><slot /></div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="actions">
        <ElButton size="large" @click="open = false">Back</ElButton>
        <ElButton
          size="large"
          :type="danger ? 'danger' : 'primary'"
          native-type="submit"
          :loading="busy"
          :disabled="!ready"
          >{{ action }}</ElButton
        >
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.form,
.fields {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.fields.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 200px), 1fr));
  gap: 12px 16px;
}
.fields.columns :slotted(.wide) {
  grid-column: 1 / -1;
}
</style>
