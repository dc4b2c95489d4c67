<script setup lang="ts">
import { chainsOf } from '#core/checks/chain'
import type { BandRule } from '#core/calculators/guard-band'
import type { Made } from '#core/checks/define'
import { layLifts, liftLimits, type LiftsCheck } from '#core/checks/lifts'
import { machinesNow, plantsNow } from '#core/embedment/plants'
import type { Machine } from '#core/plan/lists/plants'
import { longSection } from '#core/embedment/long-section'
import { trenchOf } from '#core/embedment/trench'
import type { FactValue, Slots } from '#core/formula/formula'
import { byStep } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'
import { plantWords } from '~/words'

/**
 * The reach as its record gives it: cut across while it is filled, from the side while it is levelled, by
 * station while its deflection is measured.
 */
const props = defineProps<{
  id: string
  compiled: CompiledProcedure
  facts: Record<string, FactValue>
  slots: Slots
  entries: Entry[]
  step: string | null
  entry: string | null
  /** struts that came out late are a cause to look at */
  strutsLate: boolean
  rule: BandRule
  /** the machines of the crew; the kinds of plant are told when it has none listed */
  machines: readonly Machine[]
}>()
defineEmits<{ entry: [step: string, entry: string]; step: [string] }>()
const lifts = computed(() => props.compiled.steps.find((s) => s.step.check.kind === 'lifts'))
const drawn = computed(() => {
  if (!lifts.value) return null
  const limits = liftLimits(lifts.value as unknown as Made<LiftsCheck>, props.slots)
  if (Number.isNaN(limits.od)) return null
  const given = byStep(props.compiled, props.entries)[lifts.value.index]!.filter((e) => e.kind === 'lift')
  return { limits, fill: layLifts(chainsOf(given).counted, limits) }
})
const trench = computed(() => trenchOf(props.compiled, props.facts, props.entries))
const levels = computed(() => longSection(props.compiled, props.slots, props.entries))
const kind = computed(() => {
  const at = props.step === null ? undefined : props.compiled.stepIndex.get(props.step)
  return at === undefined ? null : props.compiled.steps[at]!.step.check.kind
})
const views = computed(() => [
  { key: 'across', title: 'Across', has: drawn.value !== null },
  { key: 'levels', title: 'Levels', has: (levels.value?.inverts.length ?? 0) > 0 },
  { key: 'survey', title: 'Deflection', has: props.entries.some((e) => e.kind === 'survey') },
])
const has = (key: string) => views.value.some((v) => v.key === key && v.has)
/** the view that the step at hand is about; null of a step that is about none */
const own = computed(() => {
  if (kind.value === 'lifts') return 'across'
  return (kind.value === 'levels' || kind.value === 'survey') && has(kind.value) ? kind.value : null
})
const view = ref<string>('across')
// The drawing follows what the step is about; what a person looks at meanwhile no entry takes away.
watch(own, (key) => key && (view.value = key), { immediate: true })
watch(
  () => has(view.value),
  (there) => there || (view.value = own.value ?? 'across'),
)
const plants = computed(() => {
  if (!drawn.value) return []
  const { fill, limits } = drawn.value
  const allowed = props.facts['pipe.wheel']
  return props.machines.length > 0
    ? machinesNow(fill, limits, props.machines, typeof allowed === 'number' ? allowed : null)
    : plantsNow(fill, limits).map((p) => ({ ...p, name: plantWords[p.plant] }))
})
</script>

<template>
  <div class="reach-drawing">
    <ElRadioGroup
      v-if="views.filter((v) => v.has).length > 1"
      v-model="view"
      class="views"
      aria-label="What is drawn"
    >
      <ElRadioButton v-for="v in views.filter((w) => w.has)" :key="v.key" :value="v.key">{{
        v.title
      }}</ElRadioButton>
    </ElRadioGroup>
    <InvertSection v-if="view === 'levels' && levels" :section="levels" />
    <SurveyDrawing
      v-else-if="view === 'survey'"
      :id="id"
      :compiled="compiled"
      :facts="facts"
      :slots="slots"
      :entries="entries"
      :struts-late="strutsLate"
      :rule="rule"
    />
    <template v-else-if="drawn">
      <TrenchSection
        :od="drawn.limits.od"
        :fill="drawn.fill"
        :target="drawn.limits.target"
        :hand="drawn.limits.handBelow"
        :trench="trench"
        :chosen="entry"
        @choose="(e) => $emit('entry', lifts!.step.key, e)"
        @step="(k) => compiled.stepIndex.has(k) && $emit('step', k)"
      />
      <ul class="plants" aria-label="What may run over the pipe now">
        <li v-for="p in plants" :key="p.name" :class="{ no: !p.may }">
          <strong>{{ p.name }}</strong>
          <span class="word">{{ p.may ? 'may run' : 'not yet' }}</span>
          <span class="muted small">{{ p.why }}</span>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.views {
  margin-bottom: 10px;
}
.plants {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(128px, 1fr));
  gap: 8px;
}
.plants li {
  display: flex;
  flex-direction: column;
  border-top: 4px solid var(--accepted);
  padding-top: 6px;
}
.plants .no {
  border-top-color: var(--rejected);
}
.word {
  font-weight: 600;
  color: var(--accepted);
}
.no .word {
  color: var(--rejected);
}
</style>
