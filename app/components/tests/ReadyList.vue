<script setup lang="ts">
import type { ReadyRow } from '#core/pressure/ready'

/** "Ready to test?": what the record says, with links, and what a person confirms on site. */
defineProps<{ rows: ReadyRow[]; mayConfirm: boolean; busy: boolean }>()
defineEmits<{ confirm: [row: string] }>()
const paths: Record<string, string> = { joint: '/joints/', ncr: '/ncrs/', reach: '/embedment/' }
</script>

<template>
  <h2>Ready to test?</h2>
  <ul class="ready">
    <li v-for="r in rows" :key="r.key" :class="r.state">
      <StateGlyph
        :state="r.state === 'met' ? 'accepted' : r.state === 'open' ? 'blocked' : 'not-applicable'"
        :size="26"
      />
      <span class="grow"
        ><strong>{{ r.title }}</strong
        ><br /><span class="small muted">{{ r.sentence }}</span
        ><span v-if="r.state === 'open' && r.evidence.length > 0" class="evidence"
          ><NuxtLink
            v-for="e in r.evidence.filter((x) => paths[x.type])"
            :key="e.id"
            :to="paths[e.type] + e.id"
            >{{ e.label }}</NuxtLink
          ></span
        ></span
      >
      <ElButton
        v-if="r.confirmable && r.state === 'open' && mayConfirm"
        :disabled="busy"
        @click="$emit('confirm', r.key)"
        >Confirm</ElButton
      >
    </li>
  </ul>
</template>

<style scoped>
.ready {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  padding: 9px 0;
  border-top: 1px solid var(--hair);
}
.glyph {
  margin-top: 3px;
}
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.evidence a {
  display: inline-block;
  padding: 8px 0;
}
</style>
