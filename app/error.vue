<script setup lang="ts">
import type { NuxtError } from '#app'

defineProps<{ error: NuxtError }>()
</script>

<template>
  <main class="lost">
    <StateGlyph state="blocked" :size="48" />
    <h1>{{ error.statusCode === 404 ? 'There is nothing at this address' : 'This view stopped' }}</h1>
    <p class="muted">Nothing that was recorded is lost.</p>
    <ElButton type="primary" size="large" @click="clearError({ redirect: '/' })">To Today</ElButton>
  </main>
</template>

<style scoped>
.lost {
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 16px;
  align-items: center;
  justify-content: center;
}
</style>
