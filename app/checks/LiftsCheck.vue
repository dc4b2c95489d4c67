<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import {
  fillMaterials,
  liftLimits,
  type LiftsCheck,
  type Moisture,
  type Plant,
  type Side,
} from '#core/checks/lifts'
import type { Made } from '#core/checks/define'
import { showQuantity, showSteps } from '#core/quantity/show'
import { checkOf, type CheckEmits, type CheckForm, type CheckProps } from './form'
import { typedQuantity } from './typed'
import { moistureWords, plantWords, sideWords } from '~/words'

/** One lift of fill: where, how thick, how compacted; what it becomes is shown while it is typed. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const materials = computed(() => checkOf<'lifts'>(props.step).materials ?? fillMaterials)
const limits = computed(() => liftLimits(props.step as unknown as Made<LiftsCheck>, props.slots))
const lift = reactive({
  side: 'left' as Side,
  thickness: '',
  passes: undefined as number | undefined,
  plant: 'hand' as Plant,
  material: '',
  // What is seen and counted is said for each lift: nothing of it is filled in.
  moisture: undefined as Moisture | undefined,
  haunched: undefined as boolean | undefined,
  raised: undefined as boolean | undefined,
})
/** the lift that this one takes the place of */
const replaces = ref<string | null>(null)

// What the last lift was made with is offered again; how thick it lies is typed each time.
const last = computed(() => props.entries.filter((e) => e.kind === 'lift').at(-1)?.payload)
watch(
  last,
  (p) => {
    if (!p) return
    lift.side = p.side === 'left' ? 'right' : p.side === 'right' ? 'left' : 'both'
    if (typeof p.material === 'string') lift.material = p.material
    if (p.plant) lift.plant = p.plant as Plant
  },
  { immediate: true },
)
const thickness = computed(() => typedQuantity(lift.thickness, 'length', 'mm'))
const unread = computed(() => lift.thickness.trim() !== '' && thickness.value === null)
const compacted = computed(() => (thickness.value === null ? null : thickness.value * limits.value.factor))
const payload = computed(() =>
  thickness.value === null ||
  lift.material === '' ||
  lift.moisture === undefined ||
  lift.haunched === undefined ||
  (limits.value.boxed && lift.raised === undefined) ||
  (lift.plant !== 'none' && lift.passes === undefined)
    ? null
    : {
        side: lift.side,
        thickness: thickness.value,
        passes: lift.plant === 'none' ? 0 : lift.passes!,
        plant: lift.plant,
        material: lift.material,
        moisture: lift.moisture,
        haunched: lift.haunched,
        ...(limits.value.boxed ? { raised: lift.raised! } : {}),
        ...(replaces.value ? { replaces: replaces.value } : {}),
      },
)
watch(payload, (p) => emit('ready', p ? { kind: 'lift', payload: p } : null))
const sides: Side[] = ['left', 'right', 'both']
const plants: Plant[] = ['hand', 'plate', 'roller', 'vehicle', 'none']
const moistures: Moisture[] = ['dry', 'damp', 'wet']
defineExpose<CheckForm>({
  clear: () => {
    Object.assign(lift, {
      thickness: '',
      passes: undefined,
      moisture: undefined,
      haunched: undefined,
      raised: undefined,
    })
    replaces.value = null
  },
  replace: (id) => {
    replaces.value = id
    const p = props.entries.find((e) => e.id === id)?.payload
    if (p) Object.assign(lift, { side: p.side, material: p.material ?? '' })
  },
})
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <p v-if="replaces" class="instead">
      Laid again, in the place of the lift chosen.
      <ElButton text @click="replaces = null">A further lift instead</ElButton>
    </p>
    <div class="field">
      <span id="lift-side">Side</span>
      <ElRadioGroup v-model="lift.side" aria-labelledby="lift-side" size="large">
        <ElRadioButton v-for="s in sides" :key="s" :value="s">{{ sideWords[s] }}</ElRadioButton>
      </ElRadioGroup>
    </div>
    <div class="two">
      <label
        >Loose thickness, {{ unitShown('mm') }}
        <ElInput v-model="lift.thickness" size="large" inputmode="decimal" autocomplete="off" />
      </label>
      <p class="becomes" aria-live="polite">
        <template v-if="compacted !== null"
          >becomes <strong>{{ showSteps(compacted, 'mm') }}</strong></template
        ><span v-else-if="unread" class="fault" role="alert"
          >a length, such as {{ showQuantity(0.25, 'length', 'mm', 2) }}</span
        ><span v-else class="muted">at most {{ showQuantity(limits.maxLoose, 'length', 'mm') }}</span>
      </p>
    </div>
    <div class="field">
      <span id="lift-plant">Compacted by</span>
      <ElRadioGroup v-model="lift.plant" aria-labelledby="lift-plant" size="large">
        <ElRadioButton v-for="p in plants" :key="p" :value="p">{{ plantWords[p] }}</ElRadioButton>
      </ElRadioGroup>
    </div>
    <div class="two">
      <label v-if="lift.plant !== 'none'"
        >Passes<ElInputNumber
          v-model="lift.passes"
          :min="0"
          :max="50"
          size="large"
          aria-label="Passes"
          controls-position="right"
      /></label>
      <label
        >Material<ElSelect
          v-model="lift.material"
          size="large"
          aria-label="Material"
          placeholder="What is it?"
        >
          <ElOption v-for="m in materials" :key="m.key" :value="m.key" :label="m.title" />
        </ElSelect>
      </label>
    </div>
    <div class="field">
      <span id="lift-moisture">Moisture</span>
      <ElRadioGroup v-model="lift.moisture" aria-labelledby="lift-moisture" size="large">
        <ElRadioButton v-for="m in moistures" :key="m" :value="m">{{ moistureWords[m] }}</ElRadioButton>
      </ElRadioGroup>
    </div>
    <div class="field">
      <span id="lift-haunched">Tamped under the haunch</span>
      <ElRadioGroup v-model="lift.haunched" aria-labelledby="lift-haunched" size="large">
        <ElRadioButton :value="true">Yes</ElRadioButton>
        <ElRadioButton :value="false">No</ElRadioButton>
      </ElRadioGroup>
    </div>
    <div v-if="limits.boxed" class="field">
      <span id="lift-raised">Box raised before it was compacted, gap under it filled</span>
      <ElRadioGroup v-model="lift.raised" aria-labelledby="lift-raised" size="large">
        <ElRadioButton :value="true">Yes</ElRadioButton>
        <ElRadioButton :value="false">No</ElRadioButton>
      </ElRadioGroup>
    </div>
  </form>
</template>

<style scoped>
.becomes {
  min-height: 40px;
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: var(--s18);
}
.field :deep(.el-radio-group) {
  flex-wrap: wrap;
  row-gap: 6px;
}
.el-input-number {
  width: 100%;
}
.instead {
  border-left: 4px solid var(--held);
  padding-left: 12px;
}
</style>
