<script setup lang="ts">
import { useSession } from '~/stores/session'

/** What a project is set up with, side by side. */
const route = useRoute()
const session = useSession()
const tabs = computed(() =>
  [
    { to: '/setup/check', word: 'Plan check', show: session.can('see-plan') },
    { to: '/setup/people', word: 'People', show: session.can('keep-people') },
    { to: '/setup/lines', word: 'Lines', show: session.can('plan-work') },
    { to: '/setup/joints', word: 'Joints', show: session.can('plan-work') },
    { to: '/setup/reaches', word: 'Reaches', show: session.can('plan-work') },
    { to: '/setup', word: 'Instruments', show: true },
  ].filter((t) => t.show),
)
</script>

<template>
  <nav v-if="tabs.length > 1" class="tabs" aria-label="Setup">
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
