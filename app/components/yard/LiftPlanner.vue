<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showQuantity } from '#core/quantity/show'
import { readQuantity } from '#core/quantity/read'
import { Problem } from '#core/problem'
import { planLift, type LiftMaterial, type LiftMethod } from '#core/yard/lift'
import { useSession } from '~/stores/session'

/**
 * What a lift weighs, what each leg carries, and whether plate and tag allow it. It reminds; a competent
 * person plans.
 */
const session = useSession()
const articles = computed(() =>
  (session.overview?.articles ?? []).filter((a) => a.kind !== 'consumable' && (a.mass ?? 0) > 5),
)
const form = reactive({
  item: '',
  material: 'polyethylene' as LiftMaterial,
  method: 'textile' as LiftMethod,
  mass: '',
  od: '',
  id: '',
  length: '12 m',
  density: '958',
  count: '3',
  legs: '2',
  angle: '30',
  plate: '2 t',
  tag: '',
})
watch(
  () => form.item,
  (item) => {
    const article = articles.value.find((a) => a.item === item)
    if (article)
      Object.assign(form, {
        mass: showQuantity(article.mass ?? 0, 'mass', 'kg', 6),
        material: 'polyethylene',
        method: 'textile',
      })
  },
)
onMounted(() => (form.item = articles.value.find((a) => a.kind === 'pipe')?.item ?? ''))
const methods: [LiftMethod, string][] = [
  ['textile', 'Nylon slings'],
  ['chain', 'Chain'],
  ['plug', 'Lifting plug'],
  ['hooks', 'Hooks in the ends'],
  ['forks', 'Forks'],
]
const result = computed(() => {
  try {
    const length = (key: 'od' | 'id' | 'length') =>
      readQuantity(form[key], 'length', { field: key, bareUnit: unitShown(key === 'length' ? 'm' : 'mm') })
    const mass = (key: 'mass' | 'plate' | 'tag') =>
      form[key].trim() ? readQuantity(form[key], 'mass', { field: key, bareUnit: unitShown('kg') }) : null
    const size =
      mass('mass') === null && form.od.trim()
        ? {
            od: length('od'),
            id: length('id'),
            length: length('length'),
            density: readQuantity(form.density, 'density', { field: 'density' }),
          }
        : null
    return {
      plan: planLift({
        material: form.material,
        method: form.method,
        mass: mass('mass'),
        size,
        count: Number(form.count),
        legs: Number(form.legs),
        angle: form.legs === '1' ? 0 : readQuantity(form.angle, 'angle', { field: 'angle', bareUnit: 'deg' }),
        cranePlate: mass('plate'),
        slingTag: mass('tag'),
      }),
      fault: null,
    }
  } catch (error) {
    if (error instanceof Problem) return { plan: null, fault: error }
    throw error
  }
})
const percent = (share: number) => `${(share * 100).toFixed(0)} %`
</script>

<template>
  <div class="planner">
    <form class="form" @submit.prevent>
      <div class="field wide">
        From the catalogue<ElSelect v-model="form.item" clearable placeholder="any load" aria-label="Article"
          ><ElOption v-for="a in articles" :key="a.item" :value="a.item" :label="a.title"
        /></ElSelect>
      </div>
      <div class="field">
        Material<ElSelect v-model="form.material" aria-label="Material"
          ><ElOption value="polyethylene" label="Polyethylene" /><ElOption
            value="concrete"
            label="Concrete" /><ElOption value="other" label="Other"
        /></ElSelect>
      </div>
      <div class="field">
        Held by<ElSelect v-model="form.method" aria-label="Held by"
          ><ElOption v-for="[key, word] in methods" :key="key" :value="key" :label="word"
        /></ElSelect>
      </div>
      <label>Mass of one<ElInput v-model="form.mass" placeholder="from its size" /></label>
      <label>How many at once<ElInput v-model="form.count" inputmode="numeric" /></label>
      <template v-if="!form.mass.trim()"
        ><label>Outside diameter<ElInput v-model="form.od" placeholder="315 mm" /></label
        ><label>Bore<ElInput v-model="form.id" placeholder="257.8 mm" /></label
        ><label>Length<ElInput v-model="form.length" /></label
        ><label>Density, kg/m³<ElInput v-model="form.density" /></label
      ></template>
      <div class="field">
        Legs<ElSelect v-model="form.legs" aria-label="Legs"
          ><ElOption v-for="n in ['1', '2', '3', '4']" :key="n" :value="n" :label="n"
        /></ElSelect>
      </div>
      <label
        >Angle from the vertical<ElInput
          v-model="form.angle"
          :disabled="form.legs === '1'"
          inputmode="decimal"
      /></label>
      <label>Plate of the crane<ElInput v-model="form.plate" placeholder="read the plate" /></label>
      <label>Tag of a sling<ElInput v-model="form.tag" placeholder="read the tag" /></label>
    </form>
    <div class="out" aria-live="polite">
      <p v-if="result.fault" class="fault" role="alert">{{ result.fault.message }}</p>
      <template v-else-if="result.plan">
        <div
          class="verdict"
          :class="result.plan.refused.length ? 'no' : result.plan.open.length ? 'open' : 'yes'"
        >
          <StateGlyph
            :state="
              result.plan.refused.length ? 'rejected' : result.plan.open.length ? 'not-started' : 'accepted'
            "
            :size="32"
          />
          <div>
            <p v-for="r in result.plan.refused" :key="r">
              <strong>{{ r }}</strong>
            </p>
            <p v-for="o in result.plan.open" :key="o">{{ o }}</p>
            <p v-if="!result.plan.refused.length && !result.plan.open.length">
              <strong>Within plate and tag.</strong>
            </p>
          </div>
        </div>
        <LiftDrawing
          :plan="result.plan"
          :legs="Number(form.legs)"
          :angle="Number.parseFloat(form.angle) || 0"
          :count="Number(form.count)"
          :bad="result.plan.refused.length > 0"
        />
        <p class="muted">
          <template v-if="result.plan.craneShare !== null"
            >{{ percent(result.plan.craneShare) }} of the plate</template
          ><template v-if="result.plan.slingShare !== null"
            >, {{ percent(result.plan.slingShare) }} of the tag</template
          >
        </p>
        <ul class="cautions">
          <li v-for="c in result.plan.cautions" :key="c">{{ c }}</li>
        </ul>
        <ul class="working muted small">
          <li v-for="w in result.plan.working" :key="w">{{ w }}</li>
        </ul>
      </template>
    </div>
  </div>
</template>
