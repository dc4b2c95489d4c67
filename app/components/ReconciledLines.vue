<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import type { ReconciledLine } from '#core/delivery/reconcile'
import { lineResultWords } from '~/words'

/** The note against the order, line by line. */
defineProps<{ lines: ReconciledLine[]; brief?: boolean }>()
const state = (r: ReconciledLine['result']) =>
  r === 'right' ? 'accepted' : r === 'short' || r === 'over' ? 'too-close' : 'rejected'
</script>

<template>
  <ul v-if="brief" class="sheet brief" aria-label="Against the order">
    <li v-for="l in lines" :key="l.item + l.pressureClass + l.result">
      <StateGlyph :state="state(l.result)" :size="24" /><strong>{{ lineResultWords[l.result] }}</strong
      ><span class="grow">{{ l.title }}</span
      ><span class="muted">{{ l.sentence }}</span>
    </li>
  </ul>
  <div v-else class="sheet">
    <table class="figures">
      <thead>
        <tr>
          <th>Result</th>
          <th>Item</th>
          <th>Class</th>
          <th>Lots</th>
          <th class="number">Ordered</th>
          <th class="number">Before</th>
          <th class="number">Now</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in lines" :key="l.item + l.pressureClass + l.result">
          <td>
            <span class="row"
              ><StateGlyph :state="state(l.result)" :size="26" /><strong>{{
                lineResultWords[l.result]
              }}</strong></span
            >
          </td>
          <td>
            {{ l.title }}<br /><span class="muted small">{{ l.sentence }}</span>
          </td>
          <td class="nowrap">{{ l.pressureClass }}</td>
          <td>{{ l.lots.slice(0, 4).join(', ') }}{{ l.lots.length > 4 ? ' …' : '' }}</td>
          <td class="number">{{ showCount(l.ordered) }}</td>
          <td class="number">{{ showCount(l.before) }}</td>
          <td class="number">{{ showCount(l.delivered) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.brief {
  list-style: none;
  margin: 0;
  padding: 0;
}
.brief li {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 42px;
  padding: 4px 14px;
  border-bottom: 1px solid var(--hair);
}
.brief li:last-child {
  border-bottom: 0;
}
.brief strong {
  white-space: nowrap;
}
.nowrap {
  white-space: nowrap;
}
.row {
  gap: 8px;
  white-space: nowrap;
}
@media (max-width: 720px) {
  .brief li {
    flex-wrap: wrap;
    gap: 2px 10px;
    padding: 8px 14px;
  }
  .brief .grow {
    flex: 1 1 60%;
  }
}
</style>
