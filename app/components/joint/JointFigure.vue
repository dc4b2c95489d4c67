<script setup lang="ts">
import type { Entry } from '#core/record/entry'
import { standing } from '#core/judgement/judge'
import type { JointJudgement } from '#core/judgement/types'
import type { ProcedureStep } from '#core/procedure/types'
import { showDuration } from '#core/quantity/show'

/** The drawing of this joint with its computed marks, and its clocks. */
const props = defineProps<{ facts: Record<string, unknown>; judgement: JointJudgement; entries: Entry[]; step: ProcedureStep | null; live: number[] | null; now: number }>()
const times = useTimes()
const fact = (key: string) => (typeof props.facts[key] === 'number' ? (props.facts[key] as number) : null)
const mark = (key: string) => props.judgement.steps.find((s) => s.key === key)?.value ?? null
const readings = (key: string): number[] | null => {
  const entry = standing(props.entries).filter((e) => e.step === key && e.kind === 'reading').at(-1)
  return entry ? (entry.payload.values as number[]) : null
}
const angles = computed(() => {
  const check = props.step?.check
  const given = check && 'calculator' in check ? check.calculator?.arguments?.angles : null
  return Array.isArray(given) ? (given as number[]) : null
})
const rose = computed(() => props.step?.drawing === 'ovality' && angles.value !== null)
const diameters = computed(() => props.live ?? (props.step ? readings(props.step.key) : null))
const gaps = computed(() => {
  const values = props.step?.key === 'stab-check' && props.live ? props.live : readings('stab-check')
  return values && values.length >= 2 ? ([values[0], values[1]] as [number, number]) : null
})
const left = (until: number) => (until - props.now) / 1000
const share = (c: { startedAt: number; until: number }) => Math.min(1, Math.max(0, (props.now - c.startedAt) / (c.until - c.startedAt)))
</script>

<template>
  <aside class="figure" aria-label="Drawing and clocks">
    <OvalityRose v-if="rose && fact('pipe.od')" :od="fact('pipe.od')!" :diameters="diameters && diameters.length === angles!.length ? diameters : null" :angles="angles!" />
    <SocketDrawing v-else-if="fact('fitting.width') && fact('pipe.od')" :od="fact('pipe.od')!" :wall="fact('pipe.wall') ?? 0.01" :width="fact('fitting.width')!" :stab="mark('stab-mark')" :scrape="mark('scrape-mark')" :gaps="gaps" :highlight="step?.drawing" />
    <ul v-if="judgement.clocks.length > 0" class="clocks">
      <li v-for="c in judgement.clocks" :key="c.step" :class="{ done: left(c.until) <= 0 }">
        <span class="grow"><strong>{{ c.title }}</strong><span class="muted small">{{ c.gate ? 'test from' : left(c.until) > 0 ? 'until' : 'since' }} {{ times.moment(c.until) }}</span></span>
        <span class="left" role="timer" :aria-label="`${c.title}, time left`">{{ left(c.until) > 0 ? showDuration(left(c.until)) : 'now' }}</span>
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
</style>
