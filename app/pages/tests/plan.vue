<script setup lang="ts">
import { fitsRange } from '#core/pressure/gauge-range'
import type { OnLine } from '#core/pressure/layout'
import { testMethods } from '#core/pressure/methods/registry'
import type { DimensionKey } from '#core/quantity/dimension'
import { showMetres, showQuantity, showStretch } from '#core/quantity/show'
import { inSite, unitShown } from '#core/quantity/site-units'
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
const { form, typed, method, fits, gauges, gaugeStation, range, whole, packs, parted, facts, ...planning } =
  usePackPlan(() => onLine.value)
const { plan, fault, busy, done } = planning
const asked = computed(() =>
  Object.entries(method.value.parameters).filter(([key]) => key !== 'testPressure' && key !== 'pipes'),
)
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
.bad strong {
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
