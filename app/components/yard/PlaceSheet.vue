<script setup lang="ts">
import { typedQuantity } from '~/checks/typed'
import { unitShown } from '#core/quantity/site-units'
import { showQuantity } from '#core/quantity/show'
import { questionsFor } from '#core/yard/storage'
import type { placeSheet } from '../../../server/services/yard'
import { storedWords } from '~/words'

/** One place of the yard: what lies there, what the last rounds found, and the round to do. */
type Sheet = Awaited<ReturnType<typeof placeSheet>>
const props = defineProps<{
  sheet: Sheet
  may: boolean
  record: (body: {
    answers: Record<string, 'yes' | 'no'>
    temperature: number | null
    remark: string | null
  }) => Promise<void>
}>()
const times = useTimes()
const questions = computed(() => questionsFor(props.sheet.place.kind))
const ranged = computed(() => props.sheet.place.min !== null || props.sheet.place.max !== null)
const answers = reactive<Record<string, 'yes' | 'no' | ''>>({})
const temperature = ref('')
const remark = ref('')
const { busy, words, want, send, clear } = useSending('The round was not recorded.')
const going = ref(false)
watch(
  () => props.sheet.place.id,
  () => {
    for (const key of Object.keys(answers)) Reflect.deleteProperty(answers, key)
    temperature.value = ''
    remark.value = ''
    going.value = false
    clear()
  },
  { immediate: true },
)
const open = computed(
  () =>
    questions.value.filter((q) => !answers[q.key]).length +
    (ranged.value && !temperature.value.trim() ? 1 : 0),
)
const degrees = (t: number | null) => (t === null ? 'any' : showQuantity(t, 'temperature', '°C', 3))
async function done() {
  const read = typedQuantity(temperature.value, 'temperature', '°C')
  if (read === null && temperature.value.trim())
    return want(`The temperature is a number in ${unitShown('°C')}.`)
  await send(async () => {
    await props.record({
      answers: Object.fromEntries(Object.entries(answers).filter(([, a]) => a)) as Record<
        string,
        'yes' | 'no'
      >,
      temperature: read,
      remark: remark.value.trim() || null,
    })
    going.value = false
  })
}
</script>

<template>
  <div class="place">
    <header class="row">
      <div class="grow">
        <h2>{{ sheet.place.name }}</h2>
        <span class="muted"
          >{{ storedWords[sheet.place.kind]
          }}<template v-if="ranged"
            >, {{ degrees(sheet.place.min) }} to {{ degrees(sheet.place.max) }}</template
          >, a round every {{ sheet.place.everyDays }} days</span
        >
      </div>
      <ElButton v-if="may && !going" type="primary" size="large" @click="going = true">Do the round</ElButton>
    </header>
    <form v-if="going" class="round" @submit.prevent="done">
      <div v-for="q in questions" :key="q.key" class="question">
        <div class="grow">
          <strong>{{ q.question }}</strong><span class="muted small">{{ q.why }}</span>
        </div>
        <ElRadioGroup v-model="answers[q.key]" :aria-label="q.question" size="large"
          ><ElRadioButton value="yes">Yes</ElRadioButton
          ><ElRadioButton value="no">No</ElRadioButton></ElRadioGroup
        >
      </div>
      <label v-if="ranged"
        >Temperature here, {{ unitShown('°C')
        }}<ElInput v-model="temperature" inputmode="decimal" size="large" maxlength="6"
      /></label>
      <label>Remark<ElInput v-model="remark" type="textarea" :rows="2" maxlength="400" /></label>
      <p v-if="words" class="fault" role="alert">{{ words }}</p>
      <div class="row end">
        <ElButton size="large" @click="going = false">Back</ElButton
        ><ElButton type="primary" size="large" native-type="submit" :disabled="open > 0" :loading="busy">{{
          open > 0 ? `${open} still to look at` : 'Record the round'
        }}</ElButton>
      </div>
    </form>
    <section>
      <h3>Lies here</h3>
      <p v-if="sheet.stock.length === 0" class="muted">Nothing is said to lie here.</p>
      <table v-else class="figures">
        <tbody>
          <tr v-for="s in sheet.stock" :key="s.item + s.lot">
            <td>
              {{ s.title ?? s.item }}<br /><span class="muted small">lot {{ s.lot }}</span>
            </td>
            <td class="number">{{ s.count }}</td>
            <td class="number">
              <span v-if="s.quarantined" class="fault">{{ s.quarantined }} quarantined</span>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h3>Rounds</h3>
      <p v-if="sheet.rounds.length === 0" class="muted">Nobody has looked here yet.</p>
      <ol v-else class="rounds">
        <li v-for="r in sheet.rounds" :key="r.id">
          <StateGlyph :state="r.findings.length ? 'rejected' : 'accepted'" :size="26" />
          <div>
            <strong>{{ times.moment(r.at) }}</strong>
            <span class="muted"
              >{{ r.by }}{{ r.temperature !== null ? `, ${degrees(r.temperature)}` : '' }}</span
            >
            <p v-if="!r.findings.length" class="muted">Nothing found.</p>
            <p v-for="f in r.findings" :key="f.key">{{ f.sentence }}</p>
            <p v-if="r.remark" class="muted">{{ r.remark }}</p>
          </div>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.place,
.round,
section {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.question {
  display: flex;
  align-items: center;
  gap: 14px;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--hair);
}
.question .small {
  display: block;
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
.end {
  justify-content: flex-end;
}
.rounds {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.rounds li {
  display: flex;
  gap: 12px;
  align-items: flex-start;
}
</style>
