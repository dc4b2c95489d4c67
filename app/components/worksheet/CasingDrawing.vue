<script setup lang="ts">
import { groutLog } from '#core/embedment/grout-log'
import type { FactValue, Slots } from '#core/formula/formula'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'

/** A pipe in its casing with the grout as its log gives it: how far it stands, and how it pressed. */
const props = defineProps<{
  compiled: CompiledProcedure
  facts: Record<string, FactValue>
  slots: Slots
  entries: Entry[]
}>()
const log = computed(() => groutLog(props.compiled, props.facts, props.slots, props.entries))
const number = (key: string) => {
  const value = props.facts[key]
  return typeof value === 'number' && value > 0 ? value : null
}
const pipe = computed(() => {
  const [bore, od] = [number('casing.bore'), number('pipe.od')]
  return bore === null || od === null || od >= bore ? null : { bore, od }
})
</script>

<template>
  <template v-if="log">
    <CasingSection v-if="pipe" v-bind="pipe" :full="log.full" :reached="log.reached" />
    <GroutChart v-if="log.readings.length > 1 && Number.isFinite(log.limit)" :log="log" />
  </template>
</template>
