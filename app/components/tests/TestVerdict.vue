<script setup lang="ts">
import type { TestEvaluation } from '#core/pressure/report'
import { testVerdictStates, testVerdictWords } from '~/words'

/** What a run says: the verdict in a sentence, and every number with its limit and formula. */
defineProps<{ evaluation: TestEvaluation }>()
</script>

<template>
  <div class="verdict" :class="evaluation.verdict">
    <StateGlyph :state="testVerdictStates[evaluation.verdict]!" :size="36" />
    <div>
      <strong class="word">{{ testVerdictWords[evaluation.verdict] }}</strong>
      <p>{{ evaluation.sentence }}</p>
    </div>
  </div>
  <table v-if="evaluation.numbers.length > 0" class="figures">
    <tbody>
      <tr v-for="n in evaluation.numbers" :key="n.key">
        <td>
          {{ n.title }}<br /><span class="muted small">{{ n.formula }}</span>
        </td>
        <td class="number">
          <strong>{{ n.text }}</strong>
        </td>
        <td><StateGlyph v-if="n.verdict" :state="testVerdictStates[n.verdict]!" :size="24" /></td>
      </tr>
    </tbody>
  </table>
  <p v-for="n in evaluation.notes" :key="n.kind + n.t" class="muted small">
    {{ n.sentence }} ({{ n.count }})
  </p>
</template>

<style scoped>
.verdict {
  display: flex;
  gap: 14px;
  align-items: flex-start;
}
.number {
  white-space: nowrap;
}
.word {
  font-size: var(--s22);
}
</style>
