<script setup lang="ts">
import { unitShown, withUnit } from '#core/quantity/site-units'
import { readQuantity } from '#core/quantity/read'
import { Problem } from '#core/problem'
import type { Check } from '#core/checks/registry'
import type { Instrument } from '~/composables/types'
import { useCarry } from '~/stores/carry'

/** Readings typed once, with a unit or bare in the unit shown; judged by the parent as they come. */
type Measured = Extract<Check, { kind: 'measure' | 'environment' }>
const props = defineProps<{
  check: Measured
  count: number
  instruments: Instrument[]
  now: number
  draft?: string[]
}>()
const emit = defineEmits<{
  change: [{ values: number[]; typed: string[]; instrument: string | null } | null]
  draft: [string[]]
  submit: []
}>()

const typed = ref<string[]>([])
const active = ref(0)
const fault = ref('')
const inputs = ref<HTMLInputElement[]>([])
const fitting = computed(() => props.instruments.filter((i) => i.quantity === props.check.quantity))
const instrument = ref<string | null>(null)

/** Each reading's place; one place for many readings is counted on (nut 1, nut 2 …). */
const place = (i: number) =>
  props.check.places?.length === 1 && props.count > 1
    ? `${props.check.places[0]} ${i}`
    : (props.check.places?.[i - 1] ?? (props.count > 1 ? `Reading ${i}` : 'Reading'))

watch(
  [() => props.check, () => props.count],
  () => {
    const kept = props.draft?.length === props.count ? props.draft : null
    typed.value = kept ? [...kept] : Array.from({ length: props.count }, () => '')
    active.value = Math.max(
      0,
      typed.value.findIndex((t) => t.trim() === ''),
    )
    fault.value = ''
    instrument.value =
      fitting.value.find(
        (i) => i.kind === props.check.instrument && Date.parse(i.calibratedUntil) > props.now,
      )?.id ?? null
    void nextTick(() => inputs.value[active.value]?.focus({ preventScroll: true }))
  },
  { immediate: true },
)

watch(
  [typed, instrument],
  () => {
    fault.value = ''
    emit('draft', [...typed.value])
    if (typed.value.some((t) => t.trim() === '')) return emit('change', null)
    try {
      const values = typed.value.map((t, i) =>
        readQuantity(t, props.check.quantity, { field: place(i + 1), bareUnit: unitShown(props.check.unit) }),
      )
      emit('change', { values, typed: typed.value.map(asTyped), instrument: instrument.value })
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      fault.value = error.message
      emit('change', null)
    }
  },
  { deep: true, immediate: true },
)

function press(key: string) {
  const at = active.value
  if (key === 'next') return advance()
  const text = typed.value[at] ?? ''
  typed.value[at] = key === 'back' ? text.slice(0, -1) : text + key
}
function advance() {
  if (active.value < props.count - 1) {
    active.value++
    inputs.value[active.value]?.focus()
  } else emit('submit')
}
/** As it is kept: where the unit beside the field is not the one of the procedure, it goes with the number. */
function asTyped(text: string): string {
  const { unit } = props.check
  return unitShown(unit) === unit ? text.trim() : withUnit(text.trim(), unit)
}
const due = (i: Instrument) => Date.parse(i.calibratedUntil) < props.now
const carry = useCarry()
const offered = computed(() => (carry.result?.dimension === props.check.quantity ? carry.result : null))
function take() {
  typed.value[active.value] = offered.value!.text
  carry.result = null
}
function clear() {
  typed.value = typed.value.map(() => '')
  active.value = 0
  inputs.value[0]?.focus({ preventScroll: true })
}
/** Puts readings back that were not recorded. */
const put = (texts: string[]) => void (typed.value = [...texts])
defineExpose({ clear, put })
</script>

<template>
  <div class="entry">
    <div class="grow">
      <div class="slots">
        <label v-for="i in count" :key="i" class="slot" :class="{ active: active === i - 1 }">
          <span class="said muted small"
            ><span>{{ place(i) }}</span
            ><span class="unit">{{ unitShown(check.unit) }}</span></span
          >
          <input
            :ref="
              (el) => {
                if (el) inputs[i - 1] = el as HTMLInputElement
              }
            "
            v-model="typed[i - 1]"
            inputmode="none"
            autocomplete="off"
            maxlength="40"
            :aria-label="place(i)"
            @focus="active = i - 1"
            @keydown.enter.prevent="advance"
          />
        </label>
      </div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <p v-if="offered" class="offer">
        <ElButton size="large" @click="take">Use {{ offered.text }} from the bench</ElButton
        ><ElButton link @click="carry.result = null">Lay it aside</ElButton>
      </p>
      <div v-if="fitting.length > 0" class="tool">
        <span class="muted small">Measured with</span>
        <ElSelect
          v-model="instrument"
          clearable
          :placeholder="`Other ${check.instrument ?? 'tool'}`"
          aria-label="Measured with"
        >
          <ElOption
            v-for="i in fitting"
            :key="i.id"
            :value="i.id"
            :label="due(i) ? `${i.name} – calibration expired` : i.name"
          />
        </ElSelect>
      </div>
      <slot />
    </div>
    <NumberPad @key="press" />
  </div>
</template>

<style scoped>
.entry {
  display: flex;
  gap: 20px;
  align-items: flex-start;
}
.slots {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(98px, 1fr));
  gap: 10px;
  margin-bottom: 14px;
}
.slot {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  gap: 4px;
}
.said {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.unit {
  white-space: nowrap;
}
input {
  width: 100%;
  min-width: 0;
  height: 56px;
  padding: 0 10px;
  border: 1px solid var(--muted);
  border-radius: var(--corner);
  background: var(--card);
  color: inherit;
  font-size: var(--s22);
  font-weight: 600;
  outline: none;
}
.slot.active input {
  outline: 3px solid var(--line);
  outline-offset: -1px;
}
.offer {
  margin: 10px 0;
}
.fault {
  color: var(--rejected);
  margin-top: 8px;
}
.tool {
  display: block;
  margin: 12px 0;
  max-width: 320px;
}
@media (max-width: 720px) {
  /* The pad under the readings, where the thumb is. */
  .entry {
    flex-direction: column;
    align-items: stretch;
  }
}
</style>
