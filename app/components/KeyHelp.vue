<script setup lang="ts">
const open = defineModel<boolean>({ required: true })
const keys: [string, string][] = [
  ['/', 'Go to a joint, station, lot, NCR, pack or calculator'],
  [
    'g then t l k d e p n b c s',
    'Today, Line, Clocks (k), Deliveries, Embedment, Tests (p), NCRs, Procedures (b), Bench (c), Setup',
  ],
  ['y / n', 'Answer yes or no'],
  ['1–9', 'Choose among answers, in their order'],
  ['0–9 . ,', 'Type a reading'],
  ['Enter', 'Record, or go to the next step'],
  ['↑ / ↓', 'Step before, step after'],
  ['u', 'Strike the last entry of this step (asks why)'],
  ['?', 'These keys'],
]
</script>

<template>
  <ElDialog v-model="open" title="Keys" width="620px" align-center>
    <table class="figures">
      <tbody>
        <tr v-for="[key, what] in keys" :key="key">
          <td>
            <kbd>{{ key }}</kbd>
          </td>
          <td>{{ what }}</td>
        </tr>
      </tbody>
    </table>
  </ElDialog>
</template>

<style scoped>
kbd {
  font-family: var(--mono);
  white-space: nowrap;
}
</style>
