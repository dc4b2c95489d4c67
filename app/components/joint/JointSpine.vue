<script setup lang="ts">
import type { JointJudgement } from '#core/judgement/types'
import type { Procedure } from '#core/procedure/types'
import { stateWords } from '~/words'

/** Stages and steps with their states; a tap goes to a step. */
const props = defineProps<{ procedure: Procedure; judgement: JointJudgement; current: string | null }>()
defineEmits<{ choose: [string] }>()
const state = (key: string) => props.judgement.steps.find((s) => s.key === key)!
const spine = ref<HTMLElement | null>(null)
watch(() => props.current, async () => {
  await nextTick()
  spine.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' })
}, { immediate: true })
</script>

<template>
  <nav ref="spine" class="spine" aria-label="Steps">
    <section v-for="stage in procedure.stages" :key="stage.key">
      <h3>{{ stage.title }}</h3>
      <template v-for="step in stage.steps" :key="step.key">
        <button
          v-if="state(step.key).state !== 'not-applicable'" type="button" class="step" :class="{ here: step.key === current }" :aria-current="step.key === current ? 'step' : undefined"
          :aria-label="`${step.title}: ${stateWords[state(step.key).state]}`" @click="$emit('choose', step.key)">
          <StateGlyph :state="state(step.key).state" :size="26" />
          <span class="title">{{ step.title }}</span>
          <span v-if="state(step.key).point" class="point">{{ state(step.key).point }}</span>
        </button>
      </template>
    </section>
  </nav>
</template>

<style scoped>
.spine {
  overflow-y: auto;
  border-right: 1px solid var(--hair);
  background: var(--card);
  padding-bottom: 12px;
}
h3 {
  position: sticky;
  top: 0;
  background: var(--card);
  padding: 12px 16px 4px;
  font-size: var(--s14);
  color: var(--muted);
  z-index: 1;
}
.step {
  display: flex;
  align-items: center;
  gap: 12px;
  width: 100%;
  min-height: 44px;
  padding: 4px 12px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  font-size: var(--s16);
  cursor: pointer;
}
.step.here {
  background: var(--wash);
  border-left-color: var(--line);
  font-weight: 650;
}
.title {
  flex: 1;
  line-height: 1.2;
}
.point {
  border: 1.5px solid currentColor;
  border-radius: 2px;
  width: 22px;
  text-align: center;
  font-size: var(--s14);
  font-weight: 650;
  color: var(--muted);
}
</style>
