<script setup lang="ts">
const { start } = useShift()
start()
</script>

<template>
  <NuxtLayout>
    <NuxtPage />
  </NuxtLayout>
</template>
