<script setup lang="ts">
import { chainsOf } from '#core/checks/chain'
import type { Made } from '#core/checks/define'
import { atInvert, groutFigures, type GroutCheck, type GroutRow } from '#core/checks/grout'
import type { FactValue, Slots } from '#core/formula/formula'
import { byStep } from '#core/judgement/standing'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'

/** A pipe in its casing with the grout as its log gives it. */
const props = defineProps<{
  compiled: CompiledProcedure
  facts: Record<string, FactValue>
  slots: Slots
  entries: Entry[]
}>()
const number = (key: string) => {
  const value = props.facts[key]
  return typeof value === 'number' && value > 0 ? value : null
}
const drawn = computed(() => {
  const step = props.compiled.steps.find((s) => s.step.check.kind === 'grout')
  const [bore, od, length] = [number('casing.bore'), number('pipe.od'), number('site.length')]
  if (!step || bore === null || od === null || od >= bore) return null
  const given = byStep(props.compiled, props.entries)[step.index]!.filter((e) => e.kind === 'grout')
  const rows = chainsOf(given).counted.flatMap(({ entry }) => entry.payload.rows as GroutRow[])
  const figures = groutFigures(step as unknown as Made<GroutCheck>, props.slots)
  const worst = rows.map((r) => atInvert(r.pressure, figures) / figures.limit)
  const room = length === null ? null : (Math.PI / 4) * (bore ** 2 - od ** 2) * length
  const pumped = rows.reduce((most, r) => Math.max(most, r.volume), 0)
  return {
    bore,
    od,
    full: rows.length === 0 || room === null ? null : pumped / room,
    reached: worst.length > 0 && worst.every(Number.isFinite) ? worst.reduce((a, b) => Math.max(a, b)) : null,
  }
})
</script>

<template>
  <CasingSection v-if="drawn" v-bind="drawn" />
</template>
