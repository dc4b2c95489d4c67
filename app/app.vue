<script setup lang="ts">
import en from 'element-plus/es/locale/lang/en'

const { start } = useShift()
start()
/** What the fields say of themselves, in our words. */
const words = {
  ...en,
  el: {
    ...en.el,
    select: {
      ...en.el.select,
      placeholder: 'Choose',
      noData: 'Nothing to choose from',
      noMatch: 'Nothing like it',
      loading: 'Looking …',
    },
  },
}
</script>

<template>
  <ElConfigProvider :locale="words">
    <NuxtLayout>
      <NuxtPage />
    </NuxtLayout>
  </ElConfigProvider>
</template>
