<script setup lang="ts">
import { chainsOf } from '#core/checks/chain'
import type { Made } from '#core/checks/define'
import { layLifts, liftLimits, type LiftsCheck } from '#core/checks/lifts'
import type { Slots } from '#core/formula/formula'
import { byStep } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'

/** The trench cut across, with the fill as its record gives it. */
const props = defineProps<{
  compiled: CompiledProcedure
  slots: Slots
  entries: Entry[]
  entry: string | null
}>()
defineEmits<{ entry: [step: string, entry: string] }>()
const step = computed(() => props.compiled.steps.find((s) => s.step.check.kind === 'lifts'))
const drawn = computed(() => {
  if (!step.value) return null
  const limits = liftLimits(step.value as unknown as Made<LiftsCheck>, props.slots)
  if (Number.isNaN(limits.od)) return null
  const given = byStep(props.compiled, props.entries)[step.value.index]!.filter((e) => e.kind === 'lift')
  return { limits, fill: layLifts(chainsOf(given).counted, limits) }
})
</script>

<template>
  <TrenchSection
    v-if="drawn"
    :od="drawn.limits.od"
    :fill="drawn.fill"
    :target="drawn.limits.target"
    :hand="drawn.limits.handBelow"
    :chosen="entry"
    @choose="(e) => $emit('entry', step!.step.key, e)"
  />
</template>
