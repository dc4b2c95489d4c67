<script setup lang="ts">
import { calibrationOf, type RegisteredInstrument } from '#core/checks/instruments'
import { dimensions, type DimensionKey } from '#core/quantity/dimension'
import { showQuantity } from '#core/quantity/show'
import type { Rejudged } from '~/components/setup/RuleChoice.vue'
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
const mayTrace = computed(() => session.can('see-office'))
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
const standings = {
  never: { glyph: 'blocked', word: 'never calibrated' },
  out: { glyph: 'rejected', word: 'out of calibration' },
  soon: { glyph: 'too-close', word: '' },
  good: { glyph: 'accepted', word: 'in calibration' },
} as const
const standing = (i: RegisteredInstrument) => {
  const { state, days } = calibrationOf(i, now.value)
  const { glyph, word } = standings[state]
  return { glyph, word: word || `${days} ${days === 1 ? 'day' : 'days'} left` }
}

const adding = ref(false)
const calibrating = ref<RegisteredInstrument | null>(null)
const done = ref('')
const again = async () => void (await Promise.all([load(), session.load()]))
/** What became of judging so many anew. */
const anew = ({ judged, state }: Rejudged) =>
  state === 'done' ? `${judged} judged anew.` : `${judged} are judged anew; the top of the page says how far.`
async function calibrated(reply: Rejudged) {
  done.value = `Calibration entered. ${anew(reply)}`
  await again()
}
async function changed(reply: Rejudged) {
  done.value = `Changed. ${anew(reply)}`
  await load()
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
          <ElButton v-if="administrator" size="large" @click="adding = true">Add an instrument</ElButton>
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
                    ><StateGlyph :state="standing(i).glyph" :size="22" />{{ standing(i).word }}</span
                  ><span v-if="i.calibrations.length" class="muted small"
                    >until {{ times.day(i.calibratedUntil)
                    }}{{
                      i.calibrations.at(-1)!.certificate ? `, ${i.calibrations.at(-1)!.certificate}` : ''
                    }}</span
                  >
                </td>
                <td class="number">
                  <ElButton v-if="administrator" @click="calibrating = i">Calibrated</ElButton
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
      <section aria-labelledby="how-close">
        <h2 id="how-close">How close is close enough</h2>
        <RuleChoice :rule="data.rule" @changed="changed" />
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
    <InstrumentAdd v-model="adding" @added="again" />
    <InstrumentCalibrated v-model="calibrating" @calibrated="calibrated" />
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
.done {
  border-left: 4px solid var(--accepted);
  padding: 8px 14px;
  margin-bottom: 16px;
}
</style>
