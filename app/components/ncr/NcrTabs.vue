<script setup lang="ts">
/** Reports, and what they come to together. */
const tabs = [
  { to: '/ncrs', word: 'Reports' },
  { to: '/ncrs/analysis', word: 'What they come to' },
]
</script>

<template>
  <ViewTabs label="Nonconformances" :tabs="tabs" />
</template>
