<script setup lang="ts">
import type { BandRule } from '#core/calculators/guard-band'
import type { JudgedSubject } from '#core/checks/define'
import { slotsOf } from '#core/judgement/slots'
import type { Judgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { FactValue } from '#core/formula/formula'
import type { Machine } from '#core/plan/lists/plants'
import type { Entry } from '#core/record/entry'
import { showLeft } from '#core/quantity/show'

/** The drawing of what is worked with its computed marks, and its clocks. */
const props = defineProps<{
  id: string
  type: JudgedSubject
  compiled: CompiledProcedure
  facts: Record<string, FactValue>
  schools: Record<string, string>
  judgement: Judgement
  entries: Entry[]
  step: string | null
  live: number[] | null
  now: number
  rule: BandRule
  machines: readonly Machine[]
  /** of a step that takes many entries: the one looked at */
  entry: string | null
}>()
defineEmits<{ step: [string]; choose: [string]; entry: [step: string, entry: string] }>()
const times = useTimes()
const slots = computed(() => slotsOf(props.compiled, props.facts, props.entries, props.schools))
/** struts that were still in when fill went over the crown */
const strutsLate = computed(() =>
  props.judgement.steps.some((s) => s.key === 'struts-out' && ['rejected', 'overdue'].includes(s.state)),
)
const left = (until: number) => (until - props.now) / 1000
const share = (c: { startedAt: number; until: number }) =>
  Math.min(1, Math.max(0, (props.now - c.startedAt) / (c.until - c.startedAt)))
</script>

<template>
  <aside class="figure" tabindex="0" aria-label="Drawing and clocks">
    <JointEnds
      v-if="compiled.names.both.size > 0"
      :compiled="compiled"
      :judgement="judgement"
      :facts="facts"
      :step="step"
      @step="(k) => $emit('step', k)"
    />
    <ReachDrawing
      v-if="type === 'reach'"
      :id="id"
      :compiled="compiled"
      :facts="facts"
      :slots="slots"
      :entries="entries"
      :step="step"
      :entry="entry"
      :struts-late="strutsLate"
      :rule="rule"
      :machines="machines"
      @step="(k) => $emit('step', k)"
      @entry="(s, e) => $emit('entry', s, e)"
    />
    <CasingDrawing
      v-if="type === 'reach'"
      :compiled="compiled"
      :facts="facts"
      :slots="slots"
      :entries="entries"
    />
    <JointDrawing
      v-else
      :compiled="compiled"
      :slots="slots"
      :entries="entries"
      :step="step"
      :live="live"
      @step="(k) => $emit('step', k)"
      @choose="(c) => $emit('choose', c)"
    />
    <ul v-if="judgement.clocks.length > 0" class="clocks">
      <li v-for="c in judgement.clocks" :key="c.step" :class="{ done: left(c.until) <= 0 }">
        <span class="grow"
          ><strong>{{ c.title }}</strong
          ><span class="muted small"
            >{{ c.gate ? 'test from' : left(c.until) > 0 ? 'until' : 'since' }}
            {{ times.moment(c.until) }}</span
          ></span
        >
        <span class="left" role="timer" :aria-label="`${c.title}, time left`">{{
          left(c.until) > 0 ? showLeft(left(c.until)) : 'now'
        }}</span>
        <span class="track"><span :style="{ width: `${share(c) * 100}%` }" /></span>
      </li>
    </ul>
  </aside>
</template>

<style scoped>
.figure {
  border-left: 1px solid var(--hair);
  padding: 16px;
  overflow-y: auto;
}
.clocks {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 10px 0;
  border-top: 1px solid var(--hair);
}
.grow {
  display: flex;
  flex-direction: column;
}
.left {
  font-size: var(--s28);
  font-weight: 600;
  color: var(--waiting);
}
.done .left {
  color: var(--held);
}
.track {
  width: 100%;
  height: 4px;
  background: var(--wash);
}
.track span {
  display: block;
  height: 4px;
  background: var(--waiting);
}
@media (min-width: 721px) and (max-width: 1100px) {
  /* Upright: what is drawn stands side by side and whole. */
  .figure {
    display: flex;
    flex-wrap: wrap;
    align-items: flex-start;
    gap: 8px 20px;
    border-left: 0;
  }
  .figure > * {
    flex: 1 1 300px;
    min-width: 0;
  }
  .figure :deep(svg) {
    max-height: 32vh;
  }
  .clocks {
    margin: 0;
  }
}
</style>
