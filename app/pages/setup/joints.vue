<script setup lang="ts">
import { withUnit } from '#core/quantity/site-units'
import { useDebounceFn } from '@vueuse/core'
import { showBare, showCount, showQuantity } from '#core/quantity/show'
import type { PlannedJoint } from '#core/plan/joints'
import type { checkPlan, ScheduleRead } from '../../../server/services/planning'
import type { ChosenFile } from '~/components/delivery/FileDrop.vue'
import { useSession } from '~/stores/session'
import { useStrip } from '~/stores/strip'

/** Joints planned along a line: a pipe length apart, or by a schedule; drawn before anything is made. */
const session = useSession()
const strip = useStrip()
const { data: plan, load } = useLoad(() => api<Awaited<ReturnType<typeof checkPlan>>>(`${session.base}/plan`))
onMounted(load)
const systems = computed(() => plan.value?.procedures.filter((p) => !p.ofReach) ?? [])
const way = ref<'generator' | 'schedule'>('generator')
const form = ref({ system: '', crew: '', from: '', to: '', pipeLength: '', pattern: '', start: '1' })
watch(
  () => session.line,
  (line) =>
    line &&
    Object.assign(form.value, {
      from: showBare(line.from, 'm', 9),
      to: showBare(line.to, 'm', 9),
      pattern: `${line.key}-{n:3}`,
    }),
  { immediate: true },
)
const fields = ['system', 'crew', 'from', 'to', 'pipeLength', 'pattern', 'start']
const { busy, at, besides, send } = useSending()
const body = computed(() => ({
  ...form.value,
  ...{ from: withUnit(form.value.from, 'm'), to: withUnit(form.value.to, 'm') },
  pipeLength: withUnit(form.value.pipeLength, 'm'),
  line: session.line?.id,
  start: Number(form.value.start),
}))
const complete = computed(() => Object.values(form.value).every((v) => v.trim() !== ''))
const preview = ref<PlannedJoint[]>([])
const planned = ref('')

const look = useDebounceFn(async () => {
  preview.value = []
  if (!complete.value) return
  const found = await send(() =>
    api<{ joints: PlannedJoint[] }>(`${session.base}/plan/joints/preview`, { body: body.value }),
  )
  preview.value = found?.joints ?? []
}, 300)
watch(form, () => void look(), { deep: true })

async function keep(act: () => Promise<{ planned: number }>) {
  const done = await send(act)
  if (!done) return
  planned.value = `${showCount(done.planned)} joints are planned.`
  ;[preview.value, schedule.value, file.value] = [[], null, null]
  await strip.load()
}
const planAll = () => keep(() => api(`${session.base}/plan/joints`, { body: body.value }))

const file = ref<ChosenFile | null>(null)
const schedule = ref<ScheduleRead | null>(null)
const sent = () => ({ line: session.line?.id, file: file.value })
watch(file, async (chosen) => {
  schedule.value = null
  if (chosen)
    schedule.value = await send(() =>
      api<ScheduleRead>(`${session.base}/plan/schedule/preview`, { body: sent() }),
    )
})
const bring = () => keep(() => api(`${session.base}/plan/schedule`, { body: sent() }))

/** joints of the preview on the line, as share of its length */
const ticks = computed(() => {
  const line = session.line
  const list = way.value === 'generator' ? preview.value : (schedule.value?.sample ?? [])
  if (!line) return []
  const step = Math.ceil(list.length / 400)
  return list
    .filter((_j, i) => i % step === 0)
    .map((j) => ((j.station - line.from) / (line.to - line.from)) * 100)
})
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Joints">
    <SetupTabs />
    <Notice v-if="!session.line" empty="No line yet" hint="Joints are planned along a line: add it first.">
      <NuxtLink to="/setup/lines">Lines</NuxtLink>
    </Notice>
    <Notice
      v-else-if="plan && systems.length === 0"
      empty="No procedure yet"
      hint="A joint is planned for a procedure: adopt one first."
    >
      <NuxtLink to="/procedures">Procedures</NuxtLink>
    </Notice>
    <template v-else>
      <div class="page-head">
        <h1 class="grow">Plan joints on {{ session.line.name }}</h1>
        <ElRadioGroup v-model="way" size="large" aria-label="How">
          <ElRadioButton value="generator">A pipe length apart</ElRadioButton>
          <ElRadioButton value="schedule">By a schedule</ElRadioButton>
        </ElRadioGroup>
      </div>
      <p v-if="planned" class="done" role="status">
        {{ planned }} <NuxtLink to="/line">See them on the line</NuxtLink>
      </p>
      <PlanForm v-if="way === 'generator'" @submit="planAll">
        <PlanFields
          v-model="form"
          procedure="Procedure"
          :procedures="systems"
          names="Numbers, {n:3} counting 001, 002 …"
          :at="at"
        >
          <FormField label="Length of one pipe in the line" :fault="at('pipeLength')"
            ><ElInput v-model="form.pipeLength" size="large" maxlength="40" placeholder="2.5 m, or 8 ft"
          /></FormField>
        </PlanFields>
        <p v-if="besides(fields)" class="fault wide" role="alert">{{ besides(fields) }}</p>
        <div v-if="preview.length" class="wide" role="status">
          <svg viewBox="0 0 100 8" preserveAspectRatio="none" class="ticks" aria-hidden="true">
            <line
              x1="0"
              x2="100"
              y1="4"
              y2="4"
              stroke="var(--hair)"
              stroke-width="0.6"
              vector-effect="non-scaling-stroke"
            />
            <path
              v-for="x in ticks"
              :key="x"
              :d="`M${x} 1v6`"
              stroke="var(--line)"
              stroke-width="2"
              vector-effect="non-scaling-stroke"
            />
          </svg>
          <p>
            {{ showCount(preview.length) }} joints, {{ preview[0]!.number }} at
            {{ showQuantity(preview[0]!.station, 'length', 'm', 6) }} to {{ preview.at(-1)!.number }} at
            {{ showQuantity(preview.at(-1)!.station, 'length', 'm', 6) }}.
          </p>
        </div>
        <template #acts>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="preview.length === 0"
            >Plan {{ preview.length ? showCount(preview.length) : '' }} joints</ElButton
          >
        </template>
      </PlanForm>
      <PlanForm v-else @submit="bring">
        <div class="wide">
          <FileDrop
            v-model="file"
            label="Schedule with the columns number, station, system, crew (CSV or XLSX)"
            accept=".csv,.xlsx"
          />
          <p v-if="busy" class="muted" role="status">Reading …</p>
          <p v-if="besides([])" class="fault" role="alert">{{ besides([]) }}</p>
        </div>
        <div v-if="schedule" class="wide" role="status">
          <p>
            <strong>{{ showCount(schedule.joints) }} joints</strong> can be planned.
          </p>
          <RowFaults v-if="schedule.faulty" :faults="schedule.faults" :count="schedule.faulty" />
        </div>
        <template #acts>
          <ElButton
            type="primary"
            size="large"
            native-type="submit"
            :loading="busy"
            :disabled="!schedule || schedule.faulty > 0 || schedule.joints === 0"
            >Plan {{ schedule && !schedule.faulty ? showCount(schedule.joints) : 'the' }} joints</ElButton
          >
        </template>
      </PlanForm>
    </template>
  </div>
</template>

<style scoped>
.ticks {
  display: block;
  width: 100%;
  height: 36px;
}
.done {
  padding: 12px 16px;
  border-left: 4px solid var(--accepted);
}
</style>
