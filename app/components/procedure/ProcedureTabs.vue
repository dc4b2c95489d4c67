<script setup lang="ts">
/** What work is judged by, side by side. */
const tabs = [
  { to: '/procedures', word: 'Library' },
  { to: '/procedures/plan', word: 'Inspection plan' },
]
</script>

<template>
  <ViewTabs label="Procedures" :tabs="tabs" />
</template>
