<script setup lang="ts">
import { useSession } from '~/stores/session'

/** For which line and which crew something counts; empty is every one. */
const line = defineModel<string>('line', { required: true })
const crew = defineModel<string>('crew', { required: true })
withDefaults(defineProps<{ everyCrew?: boolean }>(), { everyCrew: true })
const session = useSession()
</script>

<template>
  <label
    >On<ElSelect v-model="line" size="large" aria-label="On which line" placeholder="every line">
      <ElOption value="" label="every line" />
      <ElOption
        v-for="l in session.overview?.lines ?? []"
        :key="l.id"
        :value="l.id"
        :label="l.name" /></ElSelect
  ></label>
  <label
    >By<ElSelect
      v-model="crew"
      size="large"
      aria-label="By which crew"
      :placeholder="everyCrew ? 'every crew' : 'which?'"
    >
      <ElOption v-if="everyCrew" value="" label="every crew" />
      <ElOption
        v-for="c in session.overview?.crews ?? []"
        :key="c.id"
        :value="c.id"
        :label="c.name" /></ElSelect
  ></label>
</template>

<style scoped>
label {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-size: var(--s14);
  color: var(--muted);
}
.el-select {
  min-width: 200px;
}
</style>
