<script setup lang="ts">
import type { InterventionPoint } from '#core/procedure/types'

/** A point by its letter in its frame: full, double, dashed or dotted; empty where nobody intervenes. */
defineProps<{ point: InterventionPoint | null; changed?: boolean; inWords?: boolean; acts?: boolean }>()
</script>

<template>
  <component
    :is="acts ? 'button' : 'span'"
    :type="acts ? 'button' : undefined"
    class="mark"
    :class="[point ?? 'none', { changed, 'in-words': inWords }]"
    >{{ point ?? '' }}</component
  >
</template>

<style scoped>
.mark {
  display: inline-grid;
  place-items: center;
  width: 44px;
  height: 44px;
  border: 1.5px solid var(--hair);
  border-radius: var(--corner);
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 600;
}
button.mark {
  cursor: pointer;
}
.in-words {
  width: 32px;
  height: 32px;
}
.H {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.W {
  border: 4px double var(--ink);
}
.S {
  border: 2px dashed var(--ink);
}
.R {
  border: 2px dotted var(--ink);
}
.changed {
  outline: 2px solid var(--line);
  outline-offset: 2px;
}
</style>
