<script setup lang="ts">
/** One field of a form: what it is called, what is typed or chosen, and what is wrong with it. */
defineProps<{
  label: string
  fault?: string
  /** holds several controls, or one that names itself: it is no label of a single input */
  group?: boolean
}>()
</script>

<template>
  <component :is="group ? 'div' : 'label'" class="form-field">
    <span>{{ label }}</span>
    <slot />
    <span v-if="fault" class="fault">{{ fault }}</span>
  </component>
</template>

<style scoped>
.form-field {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
  font-size: var(--s14);
  color: var(--muted);
}
</style>
