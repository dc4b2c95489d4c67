<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import { judgeReach, materials, type Side } from '#core/embedment/reach'
import { readQuantity } from '#core/quantity/read'
import { showIn, showNumber } from '#core/quantity/show'
import { Problem } from '#core/problem'
import type { reachSheet } from '../../../server/services/reaches'
import { useSession } from '~/stores/session'

type Sheet = Awaited<ReturnType<typeof reachSheet>>
const session = useSession()
const times = useTimes()
const id = useRoute().params.id as string
const { data, problem, loading, load } = useLoad(() => api<Sheet>(`${session.base}/reaches/${id}`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subject === id) && void load())
useLineOf(() => data.value?.reach.alignment)
const judged = computed(() =>
  data.value ? judgeReach(data.value.entries, data.value.reach.od, data.value.reach.criteria) : null,
)
const mode = ref<'lift' | 'density'>('lift')
const lift = reactive({ side: 'left' as Side, thickness: '150', passes: 4, material: 'sand', haunched: true })
const density = reactive({ side: 'both' as Side, wet: '', moisture: '', maximum: '1880' })
const chosen = ref<string | null>(null)
const fault = ref('')
const busy = ref(false)
const may = computed(() => session.may('inspector', 'crew-lead'))
const bad = computed(() => judged.value?.lifts.find((l) => l.entry === chosen.value && !l.replaced) ?? null)
// The side that lies lower comes next.
watch(
  () => judged.value && `${judged.value.left} ${judged.value.right}`,
  () => {
    const j = judged.value
    if (j) lift.side = j.left <= j.right ? 'left' : 'right'
  },
)

async function send(kind: string, payload: Record<string, unknown>) {
  busy.value = true
  fault.value = ''
  try {
    const entry = {
      id: uuidv7(),
      kind,
      payload,
      stamp: currentStamp(),
      recordedAt: new Date(deviceNow()).toISOString(),
    }
    await sendNumbered(session.base, [entry], (entries) =>
      api(`${session.base}/reaches/${id}/entries`, { body: { entries } }),
    )
    chosen.value = null
    await load()
    return true
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not recorded.'
    return false
  } finally {
    busy.value = false
  }
}
function read<T>(run: () => T): T | null {
  try {
    return run()
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    fault.value = error.message
    return null
  }
}
async function layLift(replaces?: string) {
  const thickness = read(() => readQuantity(lift.thickness, 'length', { field: 'Thickness', bareUnit: 'mm' }))
  if (thickness === null) return
  await send('lift', {
    side: lift.side,
    thickness,
    passes: lift.passes,
    material: lift.material,
    haunched: lift.haunched,
    ...(replaces ? { replaces } : {}),
  })
}
async function testDensity() {
  const values = read(() => ({
    wetDensity: readQuantity(density.wet, 'density', { field: 'Wet density', bareUnit: 'kg/m³' }),
    moisture: readQuantity(density.moisture, 'ratio', { field: 'Moisture', bareUnit: '%' }),
    maximum: readQuantity(density.maximum, 'density', { field: 'Maximum', bareUnit: 'kg/m³' }),
  }))
  if (!values) return
  if (await send('density', { side: density.side, ...values }))
    Object.assign(density, { wet: '', moisture: '' })
}
const strikeOpen = ref(false)
async function strike(reason: string) {
  if (!(await send('correction', { strikes: chosen.value, reason })))
    throw new ApiProblem('refused', fault.value, null, 0)
}
const mm = (m: number) => showIn(m, 'mm')
const sideWords: Record<Side, string> = { left: 'Left', right: 'Right', both: 'Both sides' }
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data || !judged" :loading="loading" />
  <div v-else class="reach">
    <section class="drawing">
      <div class="page-head">
        <h1>{{ data.reach.name }}</h1>
        <StateGlyph :state="judged.state" :size="28" word /><span class="muted"
          >{{ data.reach.from.toFixed(0) }} to {{ data.reach.to.toFixed(0) }} m ·
          {{ session.crewName(data.reach.crew) }}</span
        >
      </div>
      <TrenchSection :od="data.reach.od" :judged="judged" :chosen="chosen" @choose="(e) => (chosen = e)" />
    </section>
    <section class="work">
      <p class="caution">
        <strong>Trench:</strong> a competent person inspects daily and after rain; nobody goes past the local
        limit without support. Box raised before each lift is compacted, nobody under it.
      </p>
      <ul v-if="judged.due.length > 0" class="due">
        <li v-for="d in judged.due" :key="d">{{ d }}</li>
      </ul>
      <p v-else class="fine">Complete to {{ mm(judged.target) }} mm over the invert.</p>
      <template v-if="may">
        <ElRadioGroup v-model="mode" aria-label="What is recorded"
          ><ElRadioButton value="lift">Lift</ElRadioButton
          ><ElRadioButton value="density">Density test</ElRadioButton></ElRadioGroup
        >
        <form v-if="mode === 'lift'" class="form" @submit.prevent="layLift()">
          <div>
            <span class="muted small">Side</span
            ><ElRadioGroup v-model="lift.side" aria-label="Side"
              ><ElRadioButton v-for="(w, s) in sideWords" :key="s" :value="s">{{
                w
              }}</ElRadioButton></ElRadioGroup
            >
          </div>
          <div class="three">
            <label>Loose thickness, mm<ElInput v-model="lift.thickness" inputmode="decimal" /></label>
            <label
              >Passes<ElInputNumber v-model="lift.passes" :min="0" :max="50" controls-position="right"
            /></label>
            <div class="field">
              Material<ElSelect v-model="lift.material" aria-label="Material"
                ><ElOption v-for="m in materials" :key="m.key" :value="m.key" :label="m.title"
              /></ElSelect>
            </div>
          </div>
          <ElCheckbox v-model="lift.haunched" size="large">Tamped under the haunch</ElCheckbox>
          <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
          <ElButton type="primary" size="large" native-type="submit" :loading="busy"
            >Record the lift</ElButton
          >
        </form>
        <form v-else class="form" @submit.prevent="testDensity">
          <div>
            <span class="muted small">Side</span
            ><ElRadioGroup v-model="density.side" aria-label="Side"
              ><ElRadioButton v-for="(w, s) in sideWords" :key="s" :value="s">{{
                w
              }}</ElRadioButton></ElRadioGroup
            >
          </div>
          <div class="three">
            <label>Wet density, kg/m³<ElInput v-model="density.wet" inputmode="decimal" /></label>
            <label>Moisture, %<ElInput v-model="density.moisture" inputmode="decimal" /></label>
            <label>Maximum dry, kg/m³<ElInput v-model="density.maximum" inputmode="decimal" /></label>
          </div>
          <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
          <ElButton type="primary" size="large" native-type="submit" :loading="busy"
            >Record the test</ElButton
          >
        </form>
      </template>
      <div v-if="bad && may" class="chosen">
        <p>
          <strong>{{ sideWords[bad.side] }}, {{ mm(bad.thickness) }} mm.</strong>
          {{ bad.reasons.join(' ') || 'Conforms.' }}
        </p>
        <div class="row">
          <ElButton v-if="bad.verdict === 'reject'" size="large" type="primary" @click="layLift(bad.entry)"
            >Taken out and relaid as above</ElButton
          ><ElButton size="large" @click="strikeOpen = true">Strike</ElButton>
        </div>
      </div>
      <div class="lists">
        <table class="figures">
          <thead>
            <tr>
              <th>Lift</th>
              <th class="number">mm</th>
              <th class="number">Passes</th>
              <th>Material</th>
              <th>Verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="l in [...judged.lifts].reverse()"
              :key="l.entry"
              :class="{ gone: l.replaced, here: l.entry === chosen }"
              @click="chosen = l.entry"
            >
              <td>
                {{ sideWords[l.side] }} <span class="muted small">{{ times.moment(l.at) }}</span>
              </td>
              <td class="number">{{ mm(l.thickness) }}</td>
              <td class="number">{{ l.passes }}</td>
              <td>{{ l.material }}</td>
              <td>
                <StateGlyph :state="l.verdict === 'accept' ? 'accepted' : 'rejected'" :size="24" />
                <span v-if="l.reasons.length" class="small">{{ l.reasons.join(' ') }}</span>
              </td>
            </tr>
            <tr v-for="t in [...judged.tests].reverse()" :key="t.entry">
              <td>
                Density, {{ sideWords[t.side]?.toLowerCase() }}
                <span class="muted small">{{ times.moment(t.at) }}</span>
              </td>
              <td class="number" colspan="2">{{ showNumber(t.dry) }} kg/m³ dry</td>
              <td>{{ showNumber(t.compaction * 100, 3) }} %</td>
              <td>
                <StateGlyph
                  :state="
                    t.verdict === 'accept' ? 'accepted' : t.verdict === 'reject' ? 'rejected' : 'too-close'
                  "
                  :size="24"
                />
                <span v-if="t.verdict !== 'accept'" class="small">{{ t.sentence }}</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <AskDialog
      v-model="strikeOpen"
      title="Strike this lift"
      label="Why is it struck?"
      action="Strike"
      :send="strike"
    />
  </div>
</template>

<style scoped>
.reach {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.drawing {
  padding: 16px 24px;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.work {
  border-left: 1px solid var(--hair);
  background: var(--card);
  padding: 16px 24px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.caution {
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
  padding: 8px 14px;
  font-size: var(--s14);
}
.due {
  margin: 0;
  padding-left: 20px;
  font-weight: 600;
}
.form {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: stretch;
}
.form > div:first-child {
  display: flex;
  flex-direction: column;
}
.form .el-button {
  align-self: flex-end;
  min-width: 200px;
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
}
.field,
label {
  font-size: var(--s14);
  color: var(--muted);
}
.el-input-number {
  width: 100%;
}
.chosen {
  border: 1.5px solid var(--ink);
  border-radius: var(--corner);
  padding: 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.gone td {
  text-decoration: line-through;
  color: var(--muted);
}
.here td {
  background: var(--wash);
}
tbody tr {
  cursor: pointer;
}
@media (max-width: 1000px) {
  .reach {
    display: block;
    overflow-y: auto;
  }
  .drawing {
    padding: 12px 14px;
  }
  .work {
    border-left: 0;
    border-top: 1px solid var(--hair);
    padding: 14px;
    overflow: visible;
  }
  .three {
    grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  }
}
</style>
