<script setup lang="ts">
import type { LevelBook, LevelRow } from '#core/calculators/level-book'
import { showMetres } from '#core/quantity/show'
import { unitShown } from '#core/quantity/site-units'

/** A booking reduced by rise and fall and by height of collimation, side by side, with the sums that prove it. */
defineProps<{ book: LevelBook; rows: readonly LevelRow[] }>()
const m = (v: number | null) => (v === null ? '' : showMetres(v, 3, false))
const place = ({ station }: LevelRow, i: number) =>
  typeof station === 'number' ? showMetres(station, 2, false) : i === 0 ? 'start' : ''
</script>

<template>
  <div class="reduction" tabindex="0" role="region" aria-label="Levels reduced">
    <table class="figures" aria-label="The booking reduced both ways">
      <thead>
        <tr>
          <td />
          <th colspan="3">By rise and fall, {{ unitShown('m') }}</th>
          <th colspan="2" class="second">By collimation</th>
        </tr>
        <tr>
          <th class="number">At</th>
          <th class="number">Rise</th>
          <th class="number">Fall</th>
          <th class="number">Level</th>
          <th class="number second">Sight at</th>
          <th class="number">Level</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in book.rows" :key="i" :class="{ pipe: typeof rows[i]?.design === 'number' }">
          <td class="number">{{ place(rows[i] ?? {}, i) }}</td>
          <td class="number">{{ m(r.rise) }}</td>
          <td class="number">{{ m(r.fall) }}</td>
          <td class="number level">{{ m(r.byRise) }}</td>
          <td class="number second">{{ i === 0 || rows[i]?.backsight != null ? m(r.sight) : '' }}</td>
          <td class="number level">{{ m(r.byCollimation) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td class="number">sums</td>
          <td class="number">{{ m(book.rises) }}</td>
          <td class="number">{{ m(book.falls) }}</td>
          <td class="number">{{ m(book.rises - book.falls) }}</td>
          <td class="number second">back − fore</td>
          <td class="number">{{ m(book.backsights - book.foresights) }}</td>
        </tr>
      </tfoot>
    </table>
    <p :class="{ fault: !book.agrees }">
      {{ book.agrees ? 'Both ways agree, and the sums prove each other.' : 'The two ways do not agree.' }}
    </p>
  </div>
</template>

<style scoped>
.reduction {
  overflow-x: auto;
}
table {
  width: 100%;
}
td,
th {
  padding: 3px 8px;
}
.second {
  border-left: 2px solid var(--hair);
}
.pipe .level {
  font-weight: 600;
}
tfoot td {
  border-top: 2px solid var(--hair);
  color: var(--muted);
}
p {
  margin: 6px 0 0;
}
</style>
