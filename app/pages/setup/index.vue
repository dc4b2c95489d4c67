<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { RegisteredInstrument } from '#core/checks/instruments'
import { dimensions, type DimensionKey } from '#core/quantity/dimension'
import { showQuantity } from '#core/quantity/show'
import type { ProjectNamed } from '~/components/setup/ProjectForm.vue'
import { useSession } from '~/stores/session'

/** What a project stands on: its instruments with their calibrations, and how close is close enough. */
const session = useSession()
const times = useTimes()
const now = useNow()
const { data, problem, loading, load } = useLoad(() =>
  api<{ rule: 'guarded' | 'simple'; instruments: RegisteredInstrument[]; project: ProjectNamed }>(
    `${session.base}/settings`,
  ),
)
onMounted(load)
const administrator = computed(() => session.can('keep-instruments'))
const engineer = computed(() => session.can('set-rule'))
const mayTrace = computed(() => session.can('see-office'))
const DAY = 86_400_000
const handy: Partial<Record<DimensionKey, string>> = {
  length: 'mm',
  pressure: 'bar',
  temperature: '°C',
  torque: 'N·m',
  resistance: 'Mohm',
  mass: 'kg',
  time: 's',
  density: 'kg/m³',
  angle: 'deg',
  ratio: '%',
}
const show = (i: RegisteredInstrument, v: number, digits = 4) =>
  showQuantity(
    v,
    i.quantity as DimensionKey,
    handy[i.quantity as DimensionKey] ?? dimensions[i.quantity as DimensionKey]?.unit ?? '',
    digits,
  )
const standing = (i: RegisteredInstrument) => {
  const left = Math.floor((Date.parse(i.calibratedUntil) - now.value) / DAY)
  if (i.calibrations.length === 0) return { state: 'blocked' as const, word: 'never calibrated', left }
  return left < 0
    ? { state: 'rejected' as const, word: 'out of calibration', left }
    : left <= 30
      ? { state: 'too-close' as const, word: `${left} days left`, left }
      : { state: 'accepted' as const, word: 'in calibration', left }
}

const adding = ref(false)
const blank = () => ({
  name: '',
  kind: '',
  quantity: 'length',
  min: '0 mm',
  max: '',
  resolution: '',
  uncertainty: '',
})
const fresh = reactive(blank())
const calibrating = ref<RegisteredInstrument | null>(null)
const calibrateOpen = computed({
  get: () => calibrating.value !== null,
  set: (open) => void (open || (calibrating.value = null)),
})
const calibration = reactive({ from: '', until: '', certificate: '' })
const fault = ref<ApiProblem | null>(null)
const busy = ref(false)
const done = ref('')
async function send(act: () => Promise<void>) {
  busy.value = true
  fault.value = null
  try {
    await act()
    await Promise.all([load(), session.load()])
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error
  } finally {
    busy.value = false
  }
}
const add = () =>
  send(async () => {
    await api(`${session.base}/instruments`, { body: { id: uuidv7(), ...fresh } })
    Object.assign(fresh, blank())
    adding.value = false
  })
/** What became of judging so many anew. */
const anew = (count: number, state: string) =>
  state === 'done' ? `${count} judged anew.` : `${count} are judged anew; the top of the page says how far.`
const calibrate = () =>
  send(async () => {
    const { judged, state } = await api<{ judged: number; state: string }>(
      `${session.base}/instruments/${calibrating.value!.id}/calibrations`,
      { body: { ...calibration } },
    )
    done.value = `Calibration entered. ${anew(judged, state)}`
    calibrating.value = null
  })
const begin = (i: RegisteredInstrument) => {
  Object.assign(calibration, { from: '', until: '', certificate: '' })
  fault.value = null
  calibrating.value = i
}
const rule = ref<'guarded' | 'simple'>('guarded')
watch(data, (d) => d && (rule.value = d.rule))
const ruleOpen = ref(false)
async function changeRule(secret: string, reason: string) {
  const { judged, state } = await api<{ judged: number; state: string }>(`${session.base}/settings/rule`, {
    body: { rule: rule.value, reason, secret },
  })
  done.value = `Changed. ${anew(judged, state)}`
  await load()
}
const at = (field: string) => (fault.value?.field === field ? fault.value.message : '')
function openForm() {
  adding.value = true
  fault.value = null
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Setup">
    <SetupTabs />
    <div class="page-head"><h1 class="grow">Instruments and rule</h1></div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <p v-if="done" class="done" role="status">{{ done }}</p>
      <section>
        <div class="head">
          <h2 class="grow">Instruments</h2>
          <ElButton v-if="administrator" size="large" @click="openForm">Add an instrument</ElButton>
        </div>
        <p class="muted small">
          A reading names its instrument. Out of calibration or out of range, it does not count; its
          uncertainty decides what is too close to call.
        </p>
        <div class="sheet">
          <table class="figures">
            <thead>
              <tr>
                <th>Instrument</th>
                <th>Range</th>
                <th>Resolution</th>
                <th>Uncertainty</th>
                <th>Calibration</th>
                <th />
              </tr>
            </thead>
            <tbody>
              <tr v-for="i in data.instruments" :key="i.id">
                <td>
                  <strong>{{ i.name }}</strong><br /><span class="muted small">{{ i.kind }}</span>
                </td>
                <td>{{ show(i, i.min) }} to {{ show(i, i.max) }}</td>
                <td>{{ show(i, i.resolution) }}</td>
                <td>± {{ show(i, i.uncertainty, 2) }}</td>
                <td>
                  <span class="state"
                    ><StateGlyph :state="standing(i).state" :size="22" />{{ standing(i).word }}</span
                  ><span v-if="i.calibrations.length" class="muted small"
                    >until {{ times.day(i.calibratedUntil)
                    }}{{
                      i.calibrations.at(-1)!.certificate ? `, ${i.calibrations.at(-1)!.certificate}` : ''
                    }}</span
                  >
                </td>
                <td class="number">
                  <ElButton v-if="administrator" @click="begin(i)">Calibrated</ElButton
                  ><NuxtLink
                    v-else-if="mayTrace"
                    class="quiet"
                    :to="`/deliveries/trace?kind=instrument&value=${i.id}`"
                    >Trace</NuxtLink
                  >
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section>
        <h2>How close is close enough</h2>
        <ElRadioGroup
          v-model="rule"
          :disabled="!engineer"
          class="rules"
          aria-label="How close is close enough"
        >
          <ElRadio value="guarded"
            ><strong>Guarded</strong> – a reading within the uncertainty of its instrument from a limit is too
            close to call: measure again, or with a better tool.</ElRadio
          >
          <ElRadio value="simple"><strong>Simple</strong> – the limit alone decides.</ElRadio>
        </ElRadioGroup>
        <ElButton
          v-if="engineer"
          type="primary"
          size="large"
          :disabled="rule === data.rule"
          @click="ruleOpen = true"
          >Change it for the project</ElButton
        >
        <p v-else class="muted small">An engineer changes it, with a reason.</p>
      </section>
      <section v-if="session.can('set-project')" aria-labelledby="the-project">
        <h2 id="the-project">The project</h2>
        <ProjectForm :project="data.project" @changed="load" />
      </section>
      <section v-if="session.can('set-project')" aria-labelledby="told-elsewhere">
        <h2 id="told-elsewhere">Told to another program</h2>
        <WebhookForm />
      </section>
    </template>
    <ElDialog v-model="adding" title="Add an instrument" width="640px" align-center>
      <form class="form" @submit.prevent="add">
        <label
          >Name<ElInput v-model="fresh.name" size="large" maxlength="120" /><span class="fault">{{
            at('name')
          }}</span></label
        >
        <label
          >Kind, as procedures name it<ElInput
            v-model="fresh.kind"
            size="large"
            maxlength="60"
            placeholder="calliper, feeler, torque wrench …"
        /></label>
        <div class="field">
          <span>Quantity</span
          ><ElSelect v-model="fresh.quantity" size="large" aria-label="Quantity"
            ><ElOption
              v-for="(d, key) in dimensions"
              :key="key"
              :value="key"
              :label="d.noun.replace(/^an? /, '')"
          /></ElSelect>
        </div>
        <label
          >Range from<ElInput v-model="fresh.min" size="large" maxlength="40" /><span class="fault">{{
            at('min')
          }}</span></label
        >
        <label
          >Range to<ElInput v-model="fresh.max" size="large" maxlength="40" placeholder="150 mm" /><span
            class="fault"
            >{{ at('max') }}</span
          ></label
        >
        <label
          >Resolution<ElInput
            v-model="fresh.resolution"
            size="large"
            maxlength="40"
            placeholder="0.01 mm"
          /><span class="fault">{{ at('resolution') }}</span></label
        >
        <label
          >Uncertainty of one reading, ±<ElInput
            v-model="fresh.uncertainty"
            size="large"
            maxlength="40"
            placeholder="0.03 mm"
          /><span class="fault">{{ at('uncertainty') }}</span></label
        >
        <p v-if="fault && !fault.field" class="fault" role="alert">{{ fault.message }}</p>
        <div class="actions">
          <ElButton size="large" @click="adding = false">Back</ElButton
          ><ElButton size="large" type="primary" native-type="submit" :loading="busy">Add</ElButton>
        </div>
      </form>
    </ElDialog>
    <ElDialog
      v-model="calibrateOpen"
      :title="`${calibrating?.name ?? ''}: calibrated`"
      width="520px"
      align-center
    >
      <form class="form" @submit.prevent="calibrate">
        <div>
          <DayField v-model="calibration.from" label="From" />
          <span class="fault">{{ at('from') }}</span>
        </div>
        <div>
          <DayField v-model="calibration.until" label="Good until" />
          <span class="fault">{{ at('until') }}</span>
        </div>
        <label class="wide"
          >Certificate<ElInput v-model="calibration.certificate" size="large" maxlength="80"
        /></label>
        <p class="muted small wide">Readings taken while no calibration ran still do not count.</p>
        <p v-if="fault && !['from', 'until'].includes(fault.field ?? '')" class="fault" role="alert">
          {{ fault.message }}
        </p>
        <div class="actions">
          <ElButton size="large" @click="calibrating = null">Back</ElButton
          ><ElButton size="large" type="primary" native-type="submit" :loading="busy">Enter it</ElButton>
        </div>
      </form>
    </ElDialog>
    <SecretDialog
      v-model="ruleOpen"
      title="Change how close is close enough"
      action="Change"
      reason-label="Why?"
      reason-required
      :send="changeRule"
      ><p class="muted">
        Every joint of the project is judged anew. What people decided stays as it is.
      </p></SecretDialog
    >
  </div>
</template>

<style scoped>
section {
  margin-bottom: 30px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  align-items: flex-start;
}
.sheet,
.head {
  width: 100%;
}
.head {
  display: flex;
  align-items: center;
}
.state {
  display: flex;
  align-items: center;
  gap: 8px;
}
.rules {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
}
.rules :deep(.el-radio) {
  height: auto;
  min-height: 44px;
  white-space: normal;
}
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
}
label,
.field > span:first-child {
  display: block;
  font-size: var(--s14);
  color: var(--muted);
}
.wide,
.actions {
  grid-column: 1 / -1;
}
.done {
  border-left: 4px solid var(--accepted);
  padding: 8px 14px;
  margin-bottom: 16px;
}
@media (max-width: 720px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
