<script setup lang="ts">
/** The views of what is delivered, side by side. */
const route = useRoute()
const tabs = [
  { to: '/deliveries', word: 'Notes' },
  { to: '/deliveries/orders', word: 'Orders' },
  { to: '/deliveries/lots', word: 'Lots' },
  { to: '/deliveries/yard', word: 'Yard' },
  { to: '/deliveries/trace', word: 'Trace' },
]
</script>

<template>
  <nav class="tabs" aria-label="Deliveries">
    <NuxtLink
      v-for="t in tabs"
      :key="t.to"
      :to="t.to"
      :aria-current="route.path === t.to ? 'page' : undefined"
      >{{ t.word }}</NuxtLink
    >
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 4px;
  border-bottom: 1px solid var(--hair);
  margin-bottom: 16px;
}
a {
  display: flex;
  align-items: center;
  min-height: 48px;
  padding: 0 18px;
  color: var(--muted);
  text-decoration: none;
  font-weight: 600;
  border-bottom: 4px solid transparent;
  margin-bottom: -1px;
}
a[aria-current] {
  color: var(--ink);
  border-bottom-color: var(--line);
}
</style>
