<script setup lang="ts">
import { useSession } from '~/stores/session'

/** The tests of the project, and the laying out of new ones. */
const session = useSession()
const tabs = computed(() =>
  [
    { to: '/tests', word: 'Packs', show: true },
    { to: '/tests/plan', word: 'Lay out', show: session.can('plan-work') },
  ].filter((t) => t.show),
)
</script>

<template>
  <ViewTabs v-if="tabs.length > 1" label="Tests" :tabs="tabs" />
</template>
