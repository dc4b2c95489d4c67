<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import type { Side } from '#core/checks/lifts'
import type { Made } from '#core/checks/define'
import type { DensityCheck } from '#core/checks/density'
import { figuresOf } from '#core/checks/figures'
import { placesLeft, testPlaces, type TestPlace } from '#core/embedment/places'
import { peakOf } from '#core/embedment/curve'
import { showBare, showNumber, showQuantity } from '#core/quantity/show'
import type { CheckEmits, CheckForm, CheckProps } from './form'
import { typedQuantity } from './typed'
import { sideWords } from '~/words'

/** One density test: where, what was read, and the maximum of this material. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const test = reactive({
  side: 'left' as Side,
  station: '',
  wet: '',
  moisture: '',
  maximum: '',
  method: 'nuclear',
})
const times = useTimes()
const sides: Side[] = ['left', 'right', 'both']
/** the failed test that this one answers */
const retestOf = ref<string | null>(null)
const faulty = computed(() => props.judged.faults.map((f) => f.entry))
const failed = computed(() =>
  props.entries.filter((e) => e.kind === 'density' && faulty.value.includes(e.id)),
)

// The maximum is that of the material; it stays until another is typed.
watch(
  () => props.entries.filter((e) => e.kind === 'density').at(-1)?.payload,
  (p) => p && typeof p.maximum === 'number' && (test.maximum ||= showBare(p.maximum, 'kg/m³', 6)),
  { immediate: true },
)
/** the laboratory's curve that the maximum is taken from */
const curve = ref<string>('')
const chosen = computed(() => props.sheet.curves?.find((c) => c.name === curve.value) ?? null)
function take(name: string) {
  curve.value = name
  if (chosen.value) test.maximum = showBare(peakOf(chosen.value).maximum, 'kg/m³')
}
const values = computed(() => ({
  station: typedQuantity(test.station, 'length', 'm'),
  wetDensity: typedQuantity(test.wet, 'density', 'kg/m³'),
  moisture: typedQuantity(test.moisture, 'ratio', '%'),
  maximum: typedQuantity(test.maximum, 'density', 'kg/m³'),
}))
const whole = computed(() => Object.values(values.value).every((v) => v !== null))
const compaction = computed(() => {
  const { wetDensity, moisture, maximum } = values.value
  return wetDensity === null || moisture === null || !maximum ? null : wetDensity / (1 + moisture) / maximum
})
/** this test, as the curve shows it */
const here = computed(() => {
  const { wetDensity, moisture } = values.value
  return wetDensity === null || moisture === null
    ? null
    : { moisture, dryDensity: wetDensity / (1 + moisture) }
})
const payload = computed(() =>
  whole.value
    ? {
        ...values.value,
        side: test.side,
        method: test.method,
        ...(retestOf.value ? { retestOf: retestOf.value } : {}),
      }
    : null,
)
watch(payload, (p) => emit('ready', p ? { kind: 'density', payload: p } : null))
function beside(id: string | null) {
  retestOf.value = id
  const p = props.entries.find((e) => e.id === id)?.payload
  if (!p) return
  test.side = p.side as Side
  test.station = typeof p.station === 'number' ? showBare(p.station, 'm', 6) : ''
}
/** Where it is tested is drawn from the reach itself: nobody chooses a good place. */
const due = computed(() => {
  const { subject } = props.sheet
  if (!('from' in subject)) return []
  const { due } = figuresOf(props.step as unknown as Made<DensityCheck>, props.slots, 'due')
  const places = testPlaces(subject.id, subject.from, subject.to, due)
  const tested = props.entries.filter((e) => e.kind === 'density').map((e) => e.payload)
  return placesLeft(places, tested as { station: number; side: string }[])
})
function at(place: TestPlace) {
  retestOf.value = null
  test.side = place.side
  test.station = showBare(place.station, 'm', 6)
}
defineExpose<CheckForm>({
  clear() {
    Object.assign(test, { wet: '', moisture: '', station: '' })
    retestOf.value = null
  },
  replace: beside,
})
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <div v-if="due.length > 0" class="field">
      <span>Drawn places still to test</span>
      <div class="places">
        <ElButton v-for="p in due" :key="p.station" size="large" @click="at(p)"
          >{{ showQuantity(p.station, 'length', 'm') }}, {{ p.side }}</ElButton
        >
      </div>
    </div>
    <label v-if="failed.length > 0"
      >This test answers<ElSelect
        :model-value="retestOf ?? ''"
        size="large"
        placeholder="none: a further place"
        aria-label="This test answers"
        @update:model-value="(v: string) => beside(v || null)"
      >
        <ElOption value="" label="none: a further place" />
        <ElOption
          v-for="e in failed"
          :key="e.id"
          :value="e.id"
          :label="`the one at ${showQuantity(e.payload.station as number, 'length', 'm')}, ${sideWords[e.payload.side as Side]}`"
        />
      </ElSelect>
    </label>
    <div class="field">
      <span id="density-side">Side</span>
      <ElRadioGroup v-model="test.side" aria-labelledby="density-side" size="large">
        <ElRadioButton v-for="s in sides" :key="s" :value="s">{{ sideWords[s] }}</ElRadioButton>
      </ElRadioGroup>
    </div>
    <label v-if="sheet.curves?.length"
      >Compared with<ElSelect
        :model-value="curve"
        size="large"
        placeholder="which material of which source?"
        aria-label="Compared with"
        @update:model-value="take"
      >
        <ElOption
          v-for="c in sheet.curves"
          :key="c.name"
          :value="c.name"
          :label="`${c.name}: ${showQuantity(peakOf(c).maximum, 'density', 'kg/m³')}, tested ${times.date(c.dated)}`"
        />
      </ElSelect>
    </label>
    <div class="two">
      <label
        >Station, {{ unitShown('m')
        }}<ElInput v-model="test.station" size="large" inputmode="decimal" autocomplete="off"
      /></label>
      <label
        >Wet density, {{ unitShown('kg/m³')
        }}<ElInput v-model="test.wet" size="large" inputmode="decimal" autocomplete="off"
      /></label>
      <label
        >Moisture, %<ElInput v-model="test.moisture" size="large" inputmode="decimal" autocomplete="off"
      /></label>
      <label
        >Maximum dry density, {{ unitShown('kg/m³')
        }}<ElInput v-model="test.maximum" size="large" inputmode="decimal" autocomplete="off"
      /></label>
    </div>
    <div class="field">
      <span id="density-method">Read by</span>
      <ElRadioGroup v-model="test.method" aria-labelledby="density-method" size="large">
        <ElRadioButton value="nuclear">Nuclear gauge</ElRadioButton>
        <ElRadioButton value="sand">Sand replacement</ElRadioButton>
      </ElRadioGroup>
    </div>
    <CompactionCurve
      v-if="chosen"
      :points="chosen.points"
      :specific-gravity="chosen.specificGravity"
      :field="here"
    />
    <p v-if="compaction !== null" class="becomes" aria-live="polite">
      <strong>{{ showNumber(compaction * 100, 3) }} %</strong> of the maximum
    </p>
  </form>
</template>

<style scoped>
.places {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.places .el-button {
  margin: 0;
}
.becomes {
  font-size: var(--s18);
}
</style>
