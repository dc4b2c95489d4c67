<script setup lang="ts">
/** The views of what is delivered, side by side. */
const tabs = [
  { to: '/deliveries', word: 'Notes' },
  { to: '/deliveries/orders', word: 'Orders' },
  { to: '/deliveries/lots', word: 'Lots' },
  { to: '/deliveries/yard', word: 'Yard' },
  { to: '/deliveries/trace', word: 'Trace' },
]
</script>

<template>
  <ViewTabs label="Deliveries" :tabs="tabs" />
</template>
