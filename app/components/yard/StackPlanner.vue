<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { readQuantity } from '#core/quantity/read'
import { showQuantity } from '#core/quantity/show'
import { Problem } from '#core/problem'
import { planStack, type StackMaterial } from '#core/yard/stack'
import { useSession } from '~/stores/session'

/** How high, how wide, which way the sockets lie: for an article of the catalogue, or any size typed. */
const session = useSession()
const pipes = computed(() => (session.overview?.articles ?? []).filter((a) => a.kind === 'pipe'))
const form = reactive({
  item: '',
  material: 'plastic' as StackMaterial,
  nominal: '315 mm',
  od: '315 mm',
  length: '12 m',
  count: '24',
  mass: '',
  width: '',
  gap: '50 mm',
  sockets: 'no',
})
watch(
  () => form.material,
  (m) => (form.sockets = m === 'concrete' ? 'yes' : 'no'),
)
watch(
  () => form.item,
  (item) => {
    const article = pipes.value.find((a) => a.item === item)
    const od = article?.facts['pipe.od']
    if (typeof od === 'number')
      Object.assign(form, {
        material: 'plastic',
        nominal: `${od * 1000} mm`,
        od: showQuantity(od, 'length', 'mm', 6),
        length: '12 m',
        mass: article!.mass ? showQuantity(article!.mass, 'mass', 'kg', 6) : '',
      })
  },
)
onMounted(() => (form.item = pipes.value[0]?.item ?? ''))
const result = computed(() => {
  try {
    const read = (key: 'nominal' | 'od' | 'length' | 'width' | 'gap') =>
      readQuantity(form[key], 'length', {
        field: key,
        bareUnit: unitShown(key === 'length' || key === 'width' ? 'm' : 'mm'),
      })
    return {
      plan: planStack({
        material: form.material,
        nominal: read('nominal'),
        od: read('od'),
        length: read('length'),
        count: Number(form.count),
        mass: form.mass.trim()
          ? readQuantity(form.mass, 'mass', { field: 'mass', bareUnit: unitShown('kg') })
          : null,
        width: form.width.trim() ? read('width') : null,
        gap: form.gap.trim() ? read('gap') : 0,
      }),
      od: read('od'),
      length: read('length'),
      fault: null,
    }
  } catch (error) {
    if (error instanceof Problem) return { plan: null, od: 0, length: 0, fault: error }
    throw error
  }
})
</script>

<template>
  <div class="planner">
    <form class="form" @submit.prevent>
      <div class="field wide">
        From the catalogue<ElSelect v-model="form.item" clearable placeholder="any size" aria-label="Article"
          ><ElOption v-for="a in pipes" :key="a.item" :value="a.item" :label="a.title"
        /></ElSelect>
      </div>
      <div class="field wide">
        <ElRadioGroup v-model="form.material" aria-label="Material"
          ><ElRadioButton value="plastic">Plastic</ElRadioButton
          ><ElRadioButton value="concrete">Concrete</ElRadioButton></ElRadioGroup
        >
      </div>
      <label>Nominal size<ElInput v-model="form.nominal" /></label>
      <label>Outside diameter<ElInput v-model="form.od" /></label>
      <label>Length<ElInput v-model="form.length" /></label>
      <label>How many<ElInput v-model="form.count" inputmode="numeric" /></label>
      <label>Mass of one<ElInput v-model="form.mass" placeholder="not known" /></label>
      <label>Width of the ground<ElInput v-model="form.width" placeholder="free" /></label>
      <label>Room for the sling<ElInput v-model="form.gap" placeholder="none" /></label>
      <div class="field wide">
        Ends<ElRadioGroup v-model="form.sockets" aria-label="Ends"
          ><ElRadioButton value="no">Plain</ElRadioButton
          ><ElRadioButton value="yes">With sockets</ElRadioButton></ElRadioGroup
        >
      </div>
      <ul class="wide cautions">
        <li v-for="c in result.plan?.cautions ?? []" :key="c">{{ c }}</li>
      </ul>
    </form>
    <div class="out" aria-live="polite">
      <p v-if="result.fault" class="fault" role="alert">{{ result.fault.message }}</p>
      <template v-else-if="result.plan">
        <p class="sum">
          <span class="reading">{{ result.plan.perLayer.join(' + ') }}</span> lengths in
          {{ result.plan.layers }} {{ result.plan.layers === 1 ? 'layer' : 'layers' }},
          {{ result.plan.allowed }} allowed<template v-if="result.plan.mass"
            >, {{ showQuantity(result.plan.mass, 'mass', 't', 3) }}</template
          >
        </p>
        <p v-if="result.plan.left" class="fault">
          {{ result.plan.left }} do not go on this ground: start another stack.
        </p>
        <StackDrawing
          :plan="result.plan"
          :od="result.od"
          :length="result.length"
          :sockets="form.sockets === 'yes'"
        />
        <ul class="working muted small">
          <li v-for="w in result.plan.working" :key="w">{{ w }}</li>
        </ul>
      </template>
    </div>
  </div>
</template>
