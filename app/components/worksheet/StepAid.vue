<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { findCalculator } from '#core/calculators/registry'
import { dimensions } from '#core/quantity/dimension'
import { showIn, showNumber } from '#core/quantity/show'
import type { CompiledStep } from '#core/procedure/compile'
import type { Slots } from '#core/formula/formula'

/** A calculator that helps at this step, its inputs filled in as far as the joint knows them. */
const props = defineProps<{ aid: CompiledStep['aids'][number]; slots: Slots }>()
const calculator = computed(() => findCalculator(props.aid.calculator))
const open = ref(false)
watch(calculator, () => (open.value = false))
/** what the joint knows, as a person would type it in the unit that the form shows */
const given = computed(() => {
  const out: Record<string, string> = {}
  for (const [name, argument] of Object.entries(props.aid.arguments)) {
    const value = 'formula' in argument ? argument.formula.evaluate(props.slots) : argument.value
    const { kind, dimension, unit } = calculator.value.inputs[name]!.describe
    if (typeof value === 'boolean' || typeof value === 'string') out[name] = String(value)
    if (typeof value !== 'number' || !Number.isFinite(value)) continue
    const own = unitShown(unit ?? (dimension ? dimensions[dimension].unit : ''))
    out[name] = (kind === 'quantity' && own ? showIn(value, own, 6) : showNumber(value, 6))
      .replace(/−/g, '-')
      .replace(/[\s\u202f]+(?=\d)/g, '')
  }
  return out
})
</script>

<template>
  <details class="aid" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>{{ calculator.title }}</summary>
    <CalculatorForm v-if="open" :calculator="calculator" :given="given" small />
  </details>
</template>

<style scoped>
.aid {
  border-top: 1px solid var(--hair);
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
  color: var(--line);
  font-weight: 600;
}
summary::before {
  content: '+';
  width: 20px;
  text-align: center;
}
[open] > summary::before {
  content: '−';
}
</style>
