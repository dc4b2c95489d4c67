<script setup lang="ts">
import type { Column, Mapping } from '#core/files/columns'

/** Which column of the file is which; asked only where the headings do not say it. */
const props = defineProps<{
  columns: readonly Column[]
  header: string[]
  mapping: Mapping
  remembered: boolean
  unmapped: string[]
}>()
const emit = defineEmits<{ change: [Mapping] }>()
const open = ref(false)
watch(
  () => props.unmapped.length,
  (n) => n > 0 && (open.value = true),
  { immediate: true },
)
function map(key: string, heading: string) {
  const next = Object.fromEntries(
    Object.entries(props.mapping).filter(([k, h]) => k !== key && h !== heading),
  )
  emit('change', heading ? { ...next, [key]: heading } : next)
}
</script>

<template>
  <section class="mapping">
    <div class="row">
      <h3 class="grow">Columns</h3>
      <span v-if="remembered" class="muted small">as for an earlier file with these headings</span>
      <button type="button" class="fold" :aria-expanded="open" @click="open = !open">
        {{ open ? 'Hide' : 'Change' }}
      </button>
    </div>
    <p v-if="unmapped.length" class="fault" role="alert">
      Say which column is {{ unmapped.map((k) => columns.find((c) => c.key === k)?.title).join(', ') }}.
    </p>
    <div v-if="open" class="grid">
      <div v-for="c in columns" :key="c.key" class="one">
        <span>{{ c.title }}<em v-if="!c.required" class="muted"> (may be missing)</em></span>
        <ElSelect
          :model-value="mapping[c.key] ?? ''"
          :aria-label="c.title"
          clearable
          placeholder="not in the file"
          @change="(h: string) => map(c.key, h ?? '')"
          ><ElOption v-for="h in header.filter(Boolean)" :key="h" :value="h" :label="h"
        /></ElSelect>
        <span class="muted small">{{ c.hint }}</span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.mapping {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.fold {
  min-height: 44px;
  padding: 0 12px;
  border: 0;
  background: none;
  color: var(--line);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 12px 16px;
}
.one {
  display: flex;
  flex-direction: column;
  gap: 2px;
  font-size: var(--s14);
}
em {
  font-style: normal;
}
</style>
