<script setup lang="ts">
import type { Judgement, StepJudgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import { atEnd, ends, plainKey, type End } from '#core/procedure/ends'
import type { FactValue } from '#core/formula/formula'
import { showQuantity } from '#core/quantity/show'
import { endWords } from '~/words'

/**
 * Both pipe ends of a joint side by side, to scale, each with its marks and how far it has come; a tap
 * goes to the other end.
 */
const props = defineProps<{
  compiled: CompiledProcedure
  judgement: Judgement
  facts: Record<string, FactValue>
  step: string | null
}>()
const emit = defineEmits<{ step: [string] }>()
const [W, H, axis, gap] = [404, 132, 66, 10]

const steps = computed(() => new Map(props.judgement.steps.map((s) => [s.key, s])))
const here = computed(() => (props.step ? (steps.value.get(props.step)?.end ?? null) : null))
const od = computed(
  () =>
    [props.facts['pipe.od'], props.facts['pipe.nominal']].find((v): v is number => typeof v === 'number') ??
    0.1,
)
/** marks on the pipe itself, those of a tape or a stub left out */
const marksOf = (end: End) =>
  props.compiled.steps.flatMap(({ step, end: at }) => {
    const judged = steps.value.get(step.key)
    return at === end &&
      step.check.kind === 'mark' &&
      step.check.from === 'pipe end' &&
      judged &&
      judged.state !== 'not-applicable' &&
      judged.value !== null
      ? [{ key: step.key, at: judged.value, drawn: judged.state === 'accepted' }]
      : []
  })
const done = (s: StepJudgement) => s.state === 'accepted'
const drawn = computed(() =>
  ends
    .map((end) => {
      const own = props.judgement.steps.filter((s) => s.end === end && s.state !== 'not-applicable')
      return {
        end,
        marks: marksOf(end),
        done: own.filter(done).length,
        of: own.length,
        rejected: own.some((s) => s.state === 'rejected' || s.state === 'overdue' || s.state === 'differs'),
      }
    })
    .filter((e) => e.of > 0),
)
const scale = computed(() =>
  Math.min(
    150 / Math.max(0.001, ...drawn.value.flatMap((e) => e.marks.map((m) => m.at * 1.3))),
    62 / od.value,
  ),
)
const half = computed(() => (od.value * scale.value) / 2)
/** where the pipe of an end is cut, and which way from there it runs */
const cut = (end: End) => (end === 'upstream' ? W / 2 - gap : W / 2 + gap)
const way = (end: End) => (end === 'upstream' ? -1 : 1)
const label = (e: (typeof drawn.value)[number]) =>
  `${endWords[e.end]} end: ${e.done} of ${e.of} done${e.rejected ? ', rejected' : ''}`

/** The same step at that end; where it does not apply there, the first that is open. */
function goTo(end: End) {
  const own = props.judgement.steps.filter((s) => s.end === end && s.state !== 'not-applicable')
  const same = props.step ? own.find((s) => s.key === atEnd(plainKey(props.step!), end)) : undefined
  const to = same ?? own.find((s) => !done(s)) ?? own[0]
  if (to) emit('step', to.key)
}
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="drawing" role="group" aria-label="The two ends of the joint">
    <line class="centre" x1="0" :x2="W" :y1="axis" :y2="axis" />
    <g
      v-for="e in drawn"
      :key="e.end"
      class="tap"
      role="button"
      tabindex="0"
      :aria-label="label(e)"
      :aria-pressed="here === e.end"
      @click="goTo(e.end)"
      @keydown.enter.stop.prevent="goTo(e.end)"
    >
      <rect class="target" :x="e.end === 'upstream' ? 0 : W / 2" y="0" :width="W / 2" :height="H" />
      <rect
        class="body"
        :class="{ here: here === e.end }"
        :x="e.end === 'upstream' ? -4 : cut(e.end)"
        :y="axis - half"
        :width="W / 2 - gap + 4"
        :height="2 * half"
      />
      <line
        v-for="m in e.marks"
        :key="m.key"
        :x1="cut(e.end) + way(e.end) * m.at * scale"
        :x2="cut(e.end) + way(e.end) * m.at * scale"
        :y1="axis - half"
        :y2="axis + half"
        :stroke="here === e.end ? 'var(--line)' : 'var(--ink)'"
        :stroke-width="m.drawn ? 3.5 : 2"
        :stroke-dasharray="m.drawn ? undefined : '3 4'"
      >
        <title>{{ showQuantity(m.at, 'length', 'mm') }}</title>
      </line>
      <text
        :x="e.end === 'upstream' ? 6 : W - 6"
        y="20"
        :text-anchor="e.end === 'upstream' ? 'start' : 'end'"
        :class="{ strong: here === e.end }"
      >
        {{ endWords[e.end] }}
      </text>
      <text
        :x="e.end === 'upstream' ? 6 : W - 6"
        :y="H - 8"
        :text-anchor="e.end === 'upstream' ? 'start' : 'end'"
        :class="{ bad: e.rejected }"
      >
        {{ e.rejected ? 'rejected' : `${e.done} of ${e.of}` }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.drawing {
  margin-bottom: 12px;
}
.here {
  stroke: var(--line);
  stroke-width: 3;
}
.strong {
  font-weight: 650;
}
.bad {
  fill: var(--rejected);
}
</style>
