<script setup lang="ts">
import { useSession } from '~/stores/session'

/** What a project is set up with, side by side. */
const session = useSession()
const tabs = computed(() =>
  [
    { to: '/setup/check', word: 'Plan check', show: session.can('see-plan') },
    { to: '/setup/people', word: 'People', show: session.can('keep-people') },
    { to: '/setup/lines', word: 'Lines', show: session.can('plan-work') },
    { to: '/setup/joints', word: 'Joints', show: session.can('plan-work') },
    { to: '/setup/reaches', word: 'Reaches', show: session.can('plan-work') },
    {
      to: session.can('plan-work') ? '/setup/lists/articles' : '/setup/lists/people',
      word: 'Lists and files',
      show: session.can('keep-lists'),
    },
    { to: '/setup', word: 'Instruments', show: true },
  ].filter((t) => t.show),
)
</script>

<template>
  <ViewTabs v-if="tabs.length > 1" label="Setup" :tabs="tabs" />
</template>
