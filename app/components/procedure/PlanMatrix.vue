<script setup lang="ts">
import { rateWords } from '#core/plan/occasions'
import { parties, type Party } from '#core/plan/points'
import type { MatrixRow } from '../../../server/services/points'
import { partyWords, pointWords } from '~/words'

/** The steps of one procedure by stage, and who of the parties comes to look at each. */
const props = defineProps<{ rows: readonly MatrixRow[]; may: boolean }>()
const emit = defineEmits<{ change: [row: MatrixRow, party: Party] }>()
const beginsStage = (i: number) => i === 0 || props.rows[i - 1]!.stage !== props.rows[i]!.stage
const spoken = (row: MatrixRow, party: Party) => {
  const { point } = row.cells[party]
  return `${row.title}, ${partyWords[party]}: ${point ? pointWords[point] : 'nothing'}`
}
</script>

<template>
  <table class="figures">
    <thead>
      <tr>
        <th>Step</th>
        <th class="party">Crew</th>
        <th v-for="p in parties" :key="p" class="party">{{ partyWords[p] }}</th>
      </tr>
    </thead>
    <tbody>
      <template v-for="(r, i) in rows" :key="r.step">
        <tr v-if="beginsStage(i)" class="stage">
          <th :colspan="parties.length + 2" scope="rowgroup">{{ r.stage }}</th>
        </tr>
        <tr>
          <th scope="row">{{ r.title }}</th>
          <td class="party muted">makes</td>
          <td v-for="p in parties" :key="p" class="party">
            <PointMark
              :point="r.cells[p].point"
              :changed="r.cells[p].rule !== null"
              :acts="may"
              :aria-label="spoken(r, p)"
              @click="may && emit('change', r, p)"
            />
            <span v-if="r.cells[p].rate" class="muted small rate">{{ rateWords(r.cells[p].rate!) }}</span>
          </td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
.party {
  width: 116px;
  text-align: center;
}
tbody th {
  text-align: left;
  font-weight: 400;
}
tbody td,
tbody th {
  vertical-align: middle;
}
tbody tr:not(.stage) th {
  color: var(--ink);
  font-size: var(--s16);
}
.stage th {
  padding-top: 16px;
  font-weight: 600;
  color: var(--muted);
}
.rate {
  display: block;
}
@media (max-width: 900px) {
  .party {
    width: auto;
  }
}
</style>
