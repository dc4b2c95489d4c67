<script setup lang="ts">
import { useSession } from '~/stores/session'

/** What the day asks for, side by side. */
const session = useSession()
const tabs = computed(() =>
  [
    { to: '/', word: 'Today', show: true },
    { to: '/round', word: 'Round', show: session.can('plan-round') },
    { to: '/reading', word: 'Read and watch', show: session.can('read-record') },
    { to: '/crews', word: 'Crews', show: session.can('see-site') },
  ].filter((t) => t.show),
)
</script>

<template>
  <ViewTabs v-if="tabs.length > 1" label="Today" :tabs="tabs"><slot /></ViewTabs>
</template>
