<script setup lang="ts">
import type { BandRule } from '#core/calculators/guard-band'
import type { Made } from '#core/checks/define'
import { surveyFigures, surveyPoints, type SurveyCheck } from '#core/checks/survey'
import { likelyCauses } from '#core/embedment/causes'
import { foreseenDeflection } from '#core/embedment/foreseen'
import type { FactValue, Slots } from '#core/formula/formula'
import { byStep } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'
import type { Reach } from '../../../server/db/reaches'
import { useSession } from '~/stores/session'

/** The survey by station, and what sets this reach apart from the others of its line. */
const props = defineProps<{
  id: string
  compiled: CompiledProcedure
  facts: Record<string, FactValue>
  slots: Slots
  entries: Entry[]
  strutsLate: boolean
  rule: BandRule
}>()
const session = useSession()
const drawn = computed(() => {
  const made = props.compiled.steps.find((s) => s.step.check.kind === 'survey')
  if (!made) return null
  const figures = surveyFigures(made as unknown as Made<SurveyCheck>, props.slots)
  if (Object.values(figures).some(Number.isNaN)) return null
  const given = byStep(props.compiled, props.entries)[made.index]!.filter((e) => e.kind === 'survey')
  const points = surveyPoints(given, figures, props.rule)
  return { figures, points, above: points.some((p) => p.verdict !== 'accept') }
})
const { data: reaches, load } = useLoad(() => api<Reach[]>(`${session.base}/reaches`))
onMounted(() => session.projectKey && void load())
const own = computed(() => reaches.value?.find((r) => r.id === props.id))
const others = computed(
  () =>
    reaches.value?.filter(
      (r) => r.id !== props.id && r.alignment === own.value?.alignment && r.system === own.value?.system,
    ) ?? [],
)
const causes = computed(() =>
  own.value
    ? likelyCauses(
        own.value.summary.figures,
        others.value.map((r) => r.summary.figures),
        props.strutsLate,
      )
    : [],
)
/** the reaches before it, in the order they were made: whether it goes up */
const before = computed(() =>
  [...others.value, ...(own.value ? [own.value] : [])]
    .filter((r) => r.summary.figures.deflection !== undefined)
    .sort((a, b) => a.from - b.from),
)
</script>

<template>
  <div v-if="drawn">
    <SurveyChart
      v-if="drawn.points.length > 0"
      :points="drawn.points"
      :limit="drawn.figures.limit"
      :uncertainty="drawn.figures.uncertainty / drawn.figures.base"
      :predicted="foreseenDeflection(facts)"
    />
    <section v-if="causes.length > 0" class="causes">
      <h3>{{ drawn.above ? 'What to look at first' : 'What is different here' }}</h3>
      <ul>
        <li v-for="c in causes" :key="c.key">{{ c.sentence }}</li>
      </ul>
      <p class="muted small">What the record holds, not a finding: look at the place.</p>
    </section>
    <IndividualsStrip
      v-if="before.length > 2"
      title="Mean of each reach along this line"
      :values="before.map((r) => ({ name: r.name, value: r.summary.figures.deflection! * 100 }))"
      unit="%"
      :here="own?.name ?? null"
    />
  </div>
</template>

<style scoped>
.causes {
  margin-top: 14px;
  border-left: 4px solid var(--held);
  padding-left: 14px;
}
ul {
  margin: 6px 0;
  padding-left: 18px;
}
</style>
