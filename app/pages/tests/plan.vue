<script setup lang="ts">
import { typedQuantity } from '~/checks/typed'
import { unitShown, withUnit, inSite, ofSite } from '#core/quantity/site-units'
import { fitsRange } from '#core/pressure/gauge-range'
import { concreteAge, couldSee, layOut, type Layout, type OnLine } from '#core/pressure/layout'
import { fitsMaterial, testMethods } from '#core/pressure/methods/registry'
import { Problem } from '#core/problem'
import { readQuantity } from '#core/quantity/read'
import { showMetres, showQuantity, showStretch } from '#core/quantity/show'
import type { DimensionKey } from '#core/quantity/dimension'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

/** A test pack laid out on the profile of the line: what it means is worked out while it is dragged. */
const session = useSession()
const strip = useStrip()
const line = computed(() => session.line)
const { data: structures, load } = useLoad(() =>
  api<{ rows: Record<string, string | null>[] }>(`${session.base}/lists/structures`),
)
onMounted(load)
const onLine = computed<OnLine[]>(() =>
  (structures.value?.rows ?? [])
    .filter((r) => r.line === line.value?.key)
    .map((r) => ({
      name: r.name ?? '',
      kind: r.kind ?? '',
      station: Number.parseFloat(r.station ?? ''),
      angle: r.angle ? Number.parseFloat(r.angle) : null,
    })),
)
const joints = computed(() => strip.strip?.joints.map((j) => j.station) ?? [])
const gauges = computed(() => (session.overview?.instruments ?? []).filter((i) => i.quantity === 'pressure'))
const form = reactive({
  number: '',
  from: 0,
  to: 100,
  split: null as number | null,
  gaugeStation: '',
  method: 'hydro-drop',
  outsideDiameter: '315 mm',
  wall: '28.6 mm',
  modulus: '0.9 GPa',
  testPressure: '12.5 bar',
  required: '10 bar',
  rating: '16 bar',
  weakest: '',
  gauge: '',
  due: '',
  soilBearing: '',
  cast: '',
  methodReason: '',
})
/** parameters of the method as they are typed; what stays empty has its default */
const typed = ref<Record<string, string>>({})
watch(
  line,
  (l) => {
    if (!l) return
    Object.assign(form, { from: l.from, to: l.to, split: null })
    form.method =
      [...testMethods.values()].find((m) => m.materials.length > 0 && fitsMaterial(m, l.material))?.key ??
      'hydro-drop'
  },
  { immediate: true },
)
watch(gauges, (list) => (form.gauge ||= list[0]?.name ?? ''), { immediate: true })
watch(
  () => form.method,
  () => (typed.value = {}),
)
const method = computed(() => testMethods.get(form.method)!)
const fits = computed(() => !line.value || fitsMaterial(method.value, line.value.material))
const asked = computed(() =>
  Object.entries(method.value.parameters).filter(([key]) => key !== 'testPressure' && key !== 'pipes'),
)
const read = (text: string, dimension: DimensionKey, bareUnit: string, field: string) =>
  readQuantity(text, dimension, { field, bareUnit: unitShown(bareUnit) })
const gauge = computed(() => gauges.value.find((g) => g.name === form.gauge) ?? null)
interface Worked {
  layout: Layout | null
  fault: string
}
function work(from: number, to: number): Worked {
  if (!line.value || line.value.profile.length < 2) return { layout: null, fault: 'The line has no profile.' }
  try {
    const station = form.gaugeStation.trim() ? read(form.gaugeStation, 'length', 'm', 'Gauge') : from
    const layout = layOut(line.value.profile, onLine.value, {
      ...{ from, to, gaugeStation: Math.min(to, Math.max(from, station)) },
      outsideDiameter: read(form.outsideDiameter, 'length', 'mm', 'Outside diameter'),
      wall: read(form.wall, 'length', 'mm', 'Wall'),
      modulus: read(form.modulus, 'pressure', 'GPa', 'Modulus'),
      testPressure: read(form.testPressure, 'pressure', 'bar', 'Test pressure'),
      required: read(form.required, 'pressure', 'bar', 'Least at the top'),
      rating: read(form.rating, 'pressure', 'bar', 'Class'),
      soilBearing: form.soilBearing.trim()
        ? read(form.soilBearing, 'pressure', 'kPa', 'What the ground bears')
        : null,
    })
    return { layout, fault: '' }
  } catch (error) {
    if (error instanceof Problem) return { layout: null, fault: error.named((k) => k) }
    throw error
  }
}
const whole = computed(() => work(form.from, form.to))
const packs = computed(() =>
  form.split === null || form.split <= form.from || form.split >= form.to
    ? [{ from: form.from, to: form.to, ...whole.value }]
    : [
        { from: form.from, to: form.split, ...work(form.from, form.split) },
        { from: form.split, to: form.to, ...work(form.split, form.to) },
      ],
)
/** where it is parted, as the site reads it */
const parted = computed({
  get: () => (form.split === null ? undefined : Math.round(inSite(form.split, 'm') * 10) / 10),
  set: (v) => v !== undefined && (form.split = ofSite(v, 'm')),
})
const gaugeStation = computed(() => {
  const station = typedQuantity(form.gaugeStation, 'length', 'm')
  return station === null ? form.from : Math.min(form.to, Math.max(form.from, station))
})
const HOLD = 3600
const sees = (layout: Layout) =>
  gauge.value
    ? couldSee(
        layout.design,
        { uncertainty: gauge.value.uncertainty, resolution: gauge.value.resolution },
        HOLD,
      )
    : null
/** what is typed of the pack, and the unit that a bare number of it is in */
const written = [
  ['outsideDiameter', 'mm'],
  ['wall', 'mm'],
  ['modulus', 'GPa'],
  ['testPressure', 'bar'],
  ['required', 'bar'],
  ['rating', 'bar'],
] as const
const range = computed(() => {
  const pressure = whole.value.layout?.design.testPressure
  return !gauge.value || pressure === undefined ? null : pressure / gauge.value.max
})
const facts = (layout: Layout) => {
  const { plan } = layout
  const least = sees(layout)
  const block = layout.pushes.reduce((a, b) => (b.force > a.force ? b : a)).block
  const age = concreteAge(form.cast, form.due)
  return [
    {
      title: 'At the top',
      value: showQuantity(plan.highest.pressure, 'pressure', 'kPa', 4),
      bad: !plan.highOk,
      says: plan.highOk ? 'enough' : `needs ${showQuantity(layout.design.required, 'pressure', 'kPa')}`,
    },
    {
      title: 'At the bottom',
      value: showQuantity(plan.lowest.pressure, 'pressure', 'kPa', 4),
      bad: !plan.lowOk,
      says: plan.lowOk
        ? 'within its class'
        : `its class is ${showQuantity(layout.design.rating, 'pressure', 'kPa')}`,
    },
    {
      title: 'Push on the strongest',
      value: showQuantity(Math.max(...layout.pushes.map((p) => p.force)), 'force', 'kN', 3),
      bad: false,
      says: 'restrained, and concrete cured, before pressure',
    },
    {
      title: 'Its block against the ground',
      value: block === null ? 'not known' : showQuantity(block, 'area', 'm²', 2),
      bad: false,
      says: block === null ? 'say below what the ground bears' : 'with half as much again to spare',
    },
    {
      title: 'Concrete on that day',
      value: age === null ? 'not known' : age === 1 ? '1 day old' : `${age} days old`,
      bad: age !== null && age < 0,
      says:
        age === null
          ? 'say below when it is cast, and when the test is due'
          : age < 0
            ? 'it is cast after the test'
            : 'how old it must be is the engineer’s word',
    },
    {
      title: 'Water to fill',
      value: showQuantity(plan.fillVolume, 'volume', 'm³', 3),
      bad: false,
      says: `${Math.round(plan.fillTime / 60)} min at half a metre a second`,
    },
    {
      title: 'Water to raise it',
      value: showQuantity(plan.waterToRaise, 'volume', 'L', 3),
      bad: false,
      says: 'without any air in it',
    },
    {
      title: 'Air gathers at',
      value:
        layout.tops.length === 0 ? 'no top' : layout.tops.map((t) => showMetres(t.station, 0)).join(', '),
      bad: false,
      says: layout.tops.length === 0 ? 'the ends are the vents' : 'a vent at each',
    },
    ...(least === null
      ? []
      : [
          {
            title: 'Least leak the gauge could show',
            value: showQuantity(least / 3.6e6, 'flow', 'L/h', 2),
            bad: false,
            says: 'in an hour of holding, read every half minute',
          },
        ]),
  ]
}
const fault = ref('')
const busy = ref(false)
const done = ref<string[]>([])
async function plan() {
  busy.value = true
  fault.value = ''
  done.value = []
  const several = packs.value.length > 1
  try {
    for (const [i, p] of packs.value.entries()) {
      const number = several ? `${form.number}${'AB'[i]}` : form.number
      const parameters = Object.entries(typed.value)
        .filter(([, v]) => v.trim())
        .map(([k, v]) => `${k}=${v.trim()}`)
        .join('; ')
      await api(`${session.base}/lists/packs`, {
        body: {
          row: {
            ...{ line: line.value!.key, number, from: `${p.from} m`, to: `${p.to} m`, method: form.method },
            ...Object.fromEntries(written.map(([k, unit]) => [k, withUnit(form[k], unit)])),
            ...{ weakest: form.weakest, gauge: form.gauge, due: form.due, parameters },
            ...(fits.value ? {} : { methodReason: form.methodReason }),
            gaugeStation: form.gaugeStation.trim() ? withUnit(form.gaugeStation, 'm') : `${p.from} m`,
          },
        },
      })
      done.value.push(number)
    }
    await navigateTo('/tests')
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not planned.'
  } finally {
    busy.value = false
  }
}
const hint = (key: string) => {
  const d = method.value.parameters[key]!.describe
  return d.default === undefined ? (d.optional ? 'may stay empty' : 'needed') : `usually ${defaultOf(d)}`
}
const defaultOf = (d: { default?: unknown; dimension?: DimensionKey; unit?: string }) =>
  typeof d.default === 'number' && d.dimension
    ? showQuantity(d.default, d.dimension, d.unit)
    : String(d.default)
</script>

<template>
  <div class="page">
    <TestTabs />
    <Notice
      v-if="!session.can('plan-work')"
      empty="Packs are laid out by whoever plans the work"
      hint="The engineer or the administrator."
    />
    <Notice
      v-else-if="!line || line.profile.length < 2"
      empty="This line has no profile"
      hint="Setup takes one."
    >
      <NuxtLink to="/setup/lines">Lines</NuxtLink>
    </Notice>
    <template v-else>
      <div class="page-head">
        <h1>Lay a pack out</h1>
        <p class="muted">{{ line.name }}, {{ line.material }}: drag its ends, or give stations.</p>
      </div>
      <PackBuilder
        v-model:from="form.from"
        v-model:to="form.to"
        :profile="line.profile"
        :on-line="onLine"
        :joints="joints"
        :layout="whole.layout"
        :gauge-station="gaugeStation"
      />
      <p v-if="whole.fault" class="fault" role="alert">{{ whole.fault }}</p>
      <div class="alternatives" :class="{ two: packs.length > 1 }">
        <section v-for="p in packs" :key="p.from" class="sheet" :aria-label="showStretch(p.from, p.to)">
          <h2>{{ showStretch(p.from, p.to) }}</h2>
          <dl v-if="p.layout">
            <div v-for="f in facts(p.layout)" :key="f.title" :class="{ bad: f.bad }">
              <dt>{{ f.title }}</dt>
              <dd>
                <strong>{{ f.value }}</strong><span class="muted small">{{ f.says }}</span>
              </dd>
            </div>
          </dl>
        </section>
      </div>
      <p class="split">
        <template v-if="form.split === null"
          ><ElButton size="large" @click="form.split = Math.round((form.from + form.to) / 2)"
            >Set two packs beside one</ElButton
          ></template
        >
        <template v-else>
          <label
            >Parted at station, {{ unitShown('m')
            }}<ElInputNumber
              v-model="parted"
              size="large"
              :min="inSite(form.from + 1, 'm')"
              :max="inSite(form.to - 1, 'm')"
              :controls="false"
          /></label>
          <ElButton size="large" @click="form.split = null">One pack again</ElButton>
        </template>
      </p>
      <p class="caution">
        <strong>Stored energy.</strong> Nobody over or in front of a closure. Restraint in place and its
        concrete cured before pressure. Local rules and the engineer’s approved plan govern.
      </p>
      <PlanForm @submit="plan">
        <label>Number<ElInput v-model="form.number" size="large" placeholder="TP-06" /></label>
        <label
          >Method<ElSelect v-model="form.method" size="large" aria-label="Method">
            <ElOption
              v-for="m in testMethods.values()"
              :key="m.key"
              :value="m.key"
              :label="m.title" /></ElSelect
        ></label>
        <p class="wide muted small">
          {{ method.why }}
          <strong v-if="!fits" class="fault">It is not meant for {{ line.material }}.</strong>
        </p>
        <label v-if="!fits" class="wide"
          >Why it is taken all the same, an engineer’s word<ElInput
            v-model="form.methodReason"
            size="large"
            maxlength="400"
        /></label>
        <label>Outside diameter<ElInput v-model="form.outsideDiameter" size="large" /></label>
        <label>Wall<ElInput v-model="form.wall" size="large" /></label>
        <label>Modulus of the pipe<ElInput v-model="form.modulus" size="large" /></label>
        <label>Test pressure at the gauge<ElInput v-model="form.testPressure" size="large" /></label>
        <label>Least at the highest point<ElInput v-model="form.required" size="large" /></label>
        <label>Class of the weakest component<ElInput v-model="form.rating" size="large" /></label>
        <label>Weakest component<ElInput v-model="form.weakest" size="large" placeholder="Bend 45°" /></label>
        <label
          >Gauge<ElSelect v-model="form.gauge" size="large" aria-label="Gauge">
            <ElOption v-for="g in gauges" :key="g.id" :value="g.name" :label="g.name" /></ElSelect
          ><span v-if="range !== null" class="small" :class="fitsRange(range, 1) ? 'muted' : 'fault'"
            >{{ Math.round(range * 100) }} % of its range; between 25 and 75 % it reads best</span
          ></label
        >
        <label
          >Gauge at station<ElInput
            v-model="form.gaugeStation"
            size="large"
            :placeholder="showMetres(form.from, 0)"
        /></label>
        <DayField v-model="form.due" label="Due" />
        <label
          >What the ground bears behind a block<ElInput
            v-model="form.soilBearing"
            size="large"
            placeholder="100 kPa"
        /></label>
        <DayField v-model="form.cast" label="Blocks are cast on" />
        <label v-for="[key] in asked" :key="key"
          >{{ method.words[key]?.title ?? key
          }}<ElInput v-model="typed[key]" size="large" :placeholder="hint(key)" /><span class="muted small">{{
            method.words[key]?.why
          }}</span></label
        >
        <template #acts>
          <p v-if="fault" class="fault grow" role="alert">
            {{ fault }}<template v-if="done.length > 0"> Planned already: {{ done.join(', ') }}.</template>
          </p>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="!form.number.trim()"
            >{{ packs.length > 1 ? 'Plan both packs' : 'Plan the pack' }}</ElButton
          >
        </template>
      </PlanForm>
    </template>
  </div>
</template>

<style scoped>
label {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.alternatives {
  margin-top: 16px;
  display: grid;
  gap: 16px;
}
.two {
  grid-template-columns: 1fr 1fr;
}
.alternatives section {
  padding: 14px 18px;
}
.alternatives h2 {
  margin: 0 0 8px;
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 14px 20px;
  margin: 0;
}
dt {
  color: var(--muted);
  font-size: var(--s14);
}
dd {
  margin: 0;
  display: flex;
  flex-direction: column;
}
dd strong {
  font-size: var(--s18);
}
.bad strong,
.fault {
  color: var(--rejected);
}
.split {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 12px;
  margin: 14px 0;
}
.caution {
  margin-bottom: 16px;
  border-left: 4px solid var(--held);
  padding: 6px 14px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
