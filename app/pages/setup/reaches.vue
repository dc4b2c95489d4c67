<script setup lang="ts">
import { withUnit } from '#core/quantity/site-units'
import { showBare, showMetres } from '#core/quantity/show'
import { useDebounceFn } from '@vueuse/core'
import { startOf } from '#core/procedure/facts'
import type { PlannedSpan } from '#core/plan/reaches'
import type { ProcedureFact } from '#core/procedure/types'
import type { checkPlan } from '../../../server/services/planning'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

/** A line cut into reaches for its embedment; drawn before anything is made. */
const session = useSession()
const strip = useStrip()
const { data: plan, load } = useLoad(() => api<Awaited<ReturnType<typeof checkPlan>>>(`${session.base}/plan`))
onMounted(load)
const systems = computed(() => plan.value?.procedures.filter((p) => p.ofReach && p.issued) ?? [])

const form = ref({
  system: '',
  crew: '',
  from: '',
  to: '',
  every: showBare(60, 'm', 3),
  pattern: '',
  start: '1',
})
watch(
  () => session.line,
  (line) =>
    line &&
    Object.assign(form.value, {
      from: showBare(line.from, 'm', 9),
      to: showBare(line.to, 'm', 9),
      pattern: `${line.key} reach {n:2}`,
    }),
  { immediate: true },
)
const asked = ref<ProcedureFact[]>([])
const facts = reactive<Record<string, string | boolean>>({})
const fields = computed(() => [...Object.keys(form.value), ...asked.value.map((f) => f.key)])
const { busy, at, besides, send } = useSending()
const body = () => ({
  ...form.value,
  line: session.line?.id,
  start: Number(form.value.start),
  ...{
    from: withUnit(form.value.from, 'm'),
    to: withUnit(form.value.to, 'm'),
    every: withUnit(form.value.every, 'm'),
  },
  facts: withUnits(facts, asked.value),
})
const preview = ref<PlannedSpan[]>([])
const planned = ref('')
const look = useDebounceFn(async () => {
  preview.value = []
  if (Object.values(form.value).some((v) => v.trim() === '')) return
  const found = await send(() =>
    api<{ reaches: PlannedSpan[]; facts: ProcedureFact[] }>(`${session.base}/plan/reaches/preview`, {
      body: body(),
    }),
  )
  preview.value = found?.reaches ?? []
  if (!found) return
  for (const f of found.facts) facts[f.key] ??= startOf(f)
  asked.value = found.facts
}, 300)
watch(form, () => void look(), { deep: true })

async function cut() {
  const done = await send(() => api<{ planned: number }>(`${session.base}/plan/reaches`, { body: body() }))
  if (!done) return
  planned.value = `The line is cut into ${done.planned} reaches.`
  preview.value = []
  await strip.load()
}
const share = (station: number) => {
  const { from, to } = session.line!
  return ((station - from) / (to - from)) * 100
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Reaches">
    <SetupTabs />
    <Notice v-if="!session.line" empty="No line yet" hint="A line is cut into reaches: add it first.">
      <NuxtLink to="/setup/lines">Lines</NuxtLink>
    </Notice>
    <Notice
      v-else-if="plan && systems.length === 0"
      empty="No embedment procedure is issued"
      hint="A reach is worked by an issued procedure: adopt one for embedment, have it reviewed, and issue it."
    >
      <NuxtLink to="/procedures">Procedures</NuxtLink>
    </Notice>
    <template v-else>
      <div class="page-head">
        <h1 class="grow">Cut {{ session.line.name }} into reaches</h1>
      </div>
      <p v-if="planned" class="done" role="status">
        {{ planned }} <NuxtLink to="/embedment">See them in Embedment</NuxtLink>
      </p>
      <PlanForm @submit="cut">
        <PlanFields
          v-model="form"
          procedure="Embedment procedure"
          :procedures="systems"
          names="Names, {n:2} counting 01, 02 …"
          :at="at"
        >
          <StationField v-model="form.every" label="Length of one reach" :fault="at('every')" />
        </PlanFields>
        <template v-if="asked.length">
          <p class="muted small wide">The same for every one of them, from the drawing and the site:</p>
          <div class="facts wide">
            <FactField
              v-for="f in asked"
              :key="f.key"
              v-model="facts[f.key]!"
              :fact="f"
              :fault="at(f.key) || undefined"
            />
          </div>
        </template>
        <p v-if="besides(fields)" class="fault wide" role="alert">{{ besides(fields) }}</p>
        <div v-if="preview.length" class="wide" role="status">
          <svg viewBox="0 0 100 8" preserveAspectRatio="none" class="spans" aria-hidden="true">
            <rect
              v-for="s in preview"
              :key="s.name"
              :x="share(s.from)"
              y="1"
              :width="share(s.to) - share(s.from)"
              height="6"
              fill="none"
              stroke="var(--line)"
              stroke-width="2"
              vector-effect="non-scaling-stroke"
            />
          </svg>
          <p>
            {{ preview.length }} reaches, {{ preview[0]!.name }} to {{ preview.at(-1)!.name }}; the last is
            {{ showMetres(preview.at(-1)!.to - preview.at(-1)!.from, 1) }} long.
          </p>
        </div>
        <template #acts>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="preview.length === 0"
            >Cut {{ preview.length || 'the' }} reaches</ElButton
          >
        </template>
      </PlanForm>
    </template>
  </div>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 14px 20px;
}
.spans {
  display: block;
  width: 100%;
  height: 36px;
}
.done {
  padding: 12px 16px;
  border-left: 4px solid var(--accepted);
}
</style>
