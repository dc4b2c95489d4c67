<script setup lang="ts">
import type { StepJudgement } from '#core/judgement/types'
import type { ProcedureStep } from '#core/procedure/types'
import { stateWords } from '~/words'

/** Questions that are seen together with the one at hand, each with its own yes and no. */
defineProps<{ rows: { step: ProcedureStep; judged: StepJudgement }[]; mayRecord: boolean; busy: boolean }>()
defineEmits<{ choose: [string]; answer: [step: string, answer: 'yes' | 'no'] }>()
const question = (step: ProcedureStep) => ('question' in step.check ? step.check.question : '')
</script>

<template>
  <ul class="rows">
    <li v-for="{ step, judged } in rows" :key="step.key">
      <StateGlyph :state="judged.state" :size="26" />
      <button type="button" class="ask" @click="$emit('choose', step.key)">
        <strong>{{ step.title }}</strong>
        <span class="muted small">{{ question(step) }}</span>
      </button>
      <span v-if="judged.entry !== null || !mayRecord" class="muted small">{{
        stateWords[judged.state]
      }}</span>
      <template v-else>
        <ElButton
          size="large"
          :disabled="busy"
          :aria-label="`${step.title}: yes`"
          @click="$emit('answer', step.key, 'yes')"
          >Yes</ElButton
        >
        <ElButton
          size="large"
          :disabled="busy"
          :aria-label="`${step.title}: no`"
          @click="$emit('answer', step.key, 'no')"
          >No</ElButton
        >
      </template>
    </li>
  </ul>
</template>

<style scoped>
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 56px;
  border-bottom: 1px solid var(--hair);
}
.ask {
  flex: 1;
  min-width: 0;
  min-height: 52px;
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding: 4px 0;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  font-size: var(--s16);
  line-height: 1.25;
  cursor: pointer;
}
.el-button + .el-button {
  margin-left: 0;
}
</style>
