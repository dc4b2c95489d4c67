<script setup lang="ts">
import { standing } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { DrawingKey } from '#core/procedure/drawings'
import { atEnd } from '#core/procedure/ends'
import type { Slots } from '#core/formula/formula'
import type { Entry } from '#core/record/entry'
import { drawnFamilies } from '~/drawings/families'

/** The drawing of the step at hand: its values worked out for this joint, with readings as they are typed. */
const props = defineProps<{
  compiled: CompiledProcedure
  slots: Slots
  entries: readonly Entry[]
  step: string | null
  live: number[] | null
}>()
const emit = defineEmits<{ step: [string]; choose: [string] }>()

/** The drawing that a step names; a step without one keeps the last before it. */
const named = computed(() => {
  const { steps, stepIndex, drawings } = props.compiled
  const at = props.step === null ? 0 : (stepIndex.get(props.step) ?? 0)
  const end = steps[at]?.end ?? 'upstream'
  const own = steps[at]?.step.drawing
  const before = own ?? steps.slice(0, at).findLast((s) => s.step.drawing)?.step.drawing
  const [key, part = null] = (before ?? '').split('#') as [string, string | undefined]
  return {
    compiled: drawings.get(key) ?? drawings.get(atEnd(key, end)) ?? [...drawings.values()][0] ?? null,
    part: own ? part : null,
  }
})
const drawn = computed(() => {
  const found = named.value.compiled
  if (!found) return null
  const values = Object.fromEntries(
    Object.entries(found.values).map(([key, formula]) => {
      const value = formula.evaluate(props.slots)
      return [key, typeof value === 'number' && !Number.isFinite(value) ? null : value]
    }),
  )
  const { readings, end } = found
  const recorded = readings
    ? standing(props.entries).findLast(
        (e) => (e.step === readings || e.step === found.drawing.readings) && e.kind === 'reading',
      )?.payload.values
    : undefined
  const angles = readings
    ? props.compiled.steps[props.compiled.stepIndex.get(readings)!]!.arguments.angles
    : undefined
  return {
    show: found.drawing.show as DrawingKey,
    title: end ? `${found.drawing.title}, ${end} end` : found.drawing.title,
    values,
    part: named.value.part,
    readings:
      readings && readings === props.step && props.live
        ? props.live
        : ((recorded as number[] | undefined) ?? null),
    angles: angles && 'value' in angles ? (angles.value as number[]) : null,
    taps: [
      ...Object.entries(found.entered)
        .filter(([, step]) => step !== null)
        .map(([key]) => key),
      ...(readings ? ['readings'] : []),
    ],
  }
})
function tap(key: string) {
  const found = named.value.compiled!
  const step = key === 'readings' ? found.readings : found.entered[key]
  if (step) emit('step', step)
}
</script>

<template>
  <figure v-if="drawn" class="joint-drawing">
    <component
      :is="drawnFamilies[drawn.show]"
      :values="drawn.values"
      :readings="drawn.readings"
      :part="drawn.part"
      :angles="drawn.angles"
      :taps="drawn.taps"
      @tap="tap"
      @choose="(c: string) => emit('choose', c)"
    />
    <figcaption class="muted small">{{ drawn.title }}</figcaption>
  </figure>
</template>

<style scoped>
.joint-drawing {
  margin: 0;
}
</style>
