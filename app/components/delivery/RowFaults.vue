<script setup lang="ts">
import type { RowFault } from '#core/delivery/note'

/** What is wrong in a file, by row and column. */
defineProps<{ faults: RowFault[]; count: number }>()
</script>

<template>
  <section class="faults">
    <div role="alert">
      <h2>{{ count }} {{ count === 1 ? 'fault' : 'faults' }}: nothing can be imported</h2>
    </div>
    <div class="sheet scroll" tabindex="0" role="region" aria-label="Faults">
      <table class="figures">
        <thead>
          <tr>
            <th class="number">Row</th>
            <th>Column</th>
            <th>What is wrong</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(f, i) in faults" :key="i">
            <td class="number">{{ f.row }}</td>
            <td>{{ f.column }}</td>
            <td>{{ f.message }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="count > faults.length" class="muted small">
      The first {{ faults.length }} are shown. Mend the file and choose it again.
    </p>
  </section>
</template>

<style scoped>
.faults {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
h2 {
  color: var(--rejected);
}
.scroll {
  max-height: 420px;
  overflow: auto;
}
</style>
