<script setup lang="ts">
/** A form of the setup: its fields side by side where there is room, what is `wide` across, acts at its end. */
defineEmits<{ submit: [] }>()
</script>

<template>
  <form class="sheet plan" novalidate @submit.prevent="$emit('submit')">
    <slot />
    <div class="acts"><slot name="acts" /></div>
  </form>
</template>

<style scoped>
.plan {
  padding: 20px;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 14px 20px;
  max-width: 900px;
}
.plan > :slotted(.wide),
.acts {
  grid-column: 1 / -1;
}
.acts {
  display: flex;
  justify-content: flex-end;
  gap: 12px;
}
@media (max-width: 720px) {
  .plan {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
