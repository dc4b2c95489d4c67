<script setup lang="ts">
import { judgeReadings } from '#core/checks/readings'
import { barsOf } from './bars'
import { checkOf, type CheckEmits, type CheckForm, type CheckProps } from './form'

/** Readings with their instrument, judged against their limits while they are typed. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const check = computed(() => checkOf<'measure' | 'environment'>(props.step))
const read = ref<{ values: number[]; typed: string[]; instrument: string | null } | null>(null)
// The entry's own name is a component; only what it exposes is needed here.
const entry = ref<{ clear(): void; put(texts: string[]): void } | null>(null)

function change(now: typeof read.value) {
  read.value = now
  emit('live', now?.values ?? null)
  if (!now) return emit('ready', null)
  const { values, typed, instrument } = now
  emit('ready', { kind: 'reading', payload: { values, typed }, instrument })
}
const live = computed(() => {
  if (!read.value) return null
  const tool = props.sheet.instruments.find((i) => i.id === read.value!.instrument)
  const own = props.step.uncertainty?.evaluate(props.slots)
  const uncertainty = tool ? tool.uncertainty : typeof own === 'number' ? own : 0
  return judgeReadings(props.step, props.slots, read.value.values, uncertainty, props.sheet.rule)
})
const bars = computed(() => live.value ?? barsOf(props.judged))
defineExpose<CheckForm>({
  clear: () => entry.value?.clear(),
  put: (texts) => entry.value?.put(texts),
})
</script>

<template>
  <ReadingEntry
    ref="entry"
    :check="check"
    :count="judged.readings ?? 1"
    :instruments="sheet.instruments"
    :now="now"
    :draft="draft"
    @change="change"
    @draft="(t) => $emit('draft', t)"
    @submit="$emit('submit')"
  >
    <ToleranceBar v-for="b in bars" :key="b.of + b.title" v-bind="b" />
  </ReadingEntry>
</template>
