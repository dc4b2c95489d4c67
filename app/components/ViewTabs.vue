<script setup lang="ts">
/** Views that belong together, side by side. */
const props = defineProps<{ label: string; tabs: readonly { to: string; word: string }[] }>()
const route = useRoute()
/** the tab itself, or another view of the same folder below the first */
const folder = (path: string) => path.split('/').slice(0, 3).join('/')
const current = (to: string) =>
  route.path === to ||
  (to.split('/').length > 3 && folder(route.path) === folder(to)) ||
  (to !== '/' && route.path.startsWith(`${to}/`) && !props.tabs.some((t) => t.to === route.path))
</script>

<template>
  <nav class="tabs" :aria-label="label">
    <NuxtLink v-for="t in tabs" :key="t.to" :to="t.to" :aria-current="current(t.to) ? 'page' : undefined">{{
      t.word
    }}</NuxtLink>
    <span v-if="$slots.default" class="beside"><slot /></span>
  </nav>
</template>

<style scoped>
.beside {
  margin-left: auto;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
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
@media (max-width: 720px) {
  a {
    padding: 0 10px;
  }
}
</style>
