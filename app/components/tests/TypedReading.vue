<script setup lang="ts">
import { findUnit, toSi } from '#core/quantity/units'
import { unitShown } from '#core/quantity/site-units'
/** A reading typed from a chart gauge, with the number pad where there are gloves. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  send: (reading: { pressure: number; pipe: number | null; makeup: number | null }) => Promise<void>
}>()
type Key = 'pressure' | 'pipe' | 'makeup'
const field = (key: Key, title: string, unit: string, must = false) => ({
  ...{ key, must, unit: unitShown(unit), title: `${title}, ${unitShown(unit)}` },
})
const fields = [
  field('pressure', 'Pressure', 'kPa', true),
  field('pipe', 'Pipe', '°C'),
  field('makeup', 'Water added so far', 'L'),
]
const typed = reactive<Record<Key, string>>({ pressure: '', pipe: '', makeup: '' })
const at = ref<Key>('pressure')
const { busy, words, want, clear, send: attempt } = useSending('This was not taken.')
watch(open, (now) => {
  if (!now) return
  Object.assign(typed, { pressure: '', pipe: '', makeup: '' })
  clear()
  at.value = 'pressure'
})
function press(key: string) {
  if (key === 'next') {
    const i = fields.findIndex((f) => f.key === at.value)
    at.value = fields[(i + 1) % fields.length]!.key
  } else if (key === 'back') typed[at.value] = typed[at.value].slice(0, -1)
  else typed[at.value] += key
}
const read = (text: string) => Number(text.trim().replace('−', '-').replace(',', '.'))
async function go() {
  const wrong = fields.find((f) => (typed[f.key].trim() ? !Number.isFinite(read(typed[f.key])) : f.must))
  if (wrong) return want(`${wrong.title}: type a number.`)
  const value = (f: (typeof fields)[number]) =>
    typed[f.key].trim() ? toSi(read(typed[f.key]), findUnit(f.unit)!) : null
  const [pressure, pipe, makeup] = fields.map(value)
  await attempt(async () => {
    await props.send({ pressure: pressure!, pipe: pipe!, makeup: makeup! })
    open.value = false
  })
}
</script>

<template>
  <DialogForm
    v-model="open"
    title="A reading of this moment"
    action="Take the reading"
    :busy="busy"
    :fault="words"
    @send="go"
  >
    <div class="reading-form">
      <div class="figures">
        <FormField v-for="f in fields" :key="f.key" :label="f.title"
          ><ElInput v-model="typed[f.key]" inputmode="decimal" size="large" @focus="at = f.key"
        /></FormField>
      </div>
      <NumberPad @key="press" />
    </div>
  </DialogForm>
</template>

<style scoped>
.reading-form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px 20px;
}
.figures {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
@media (max-width: 480px) {
  .reading-form {
    grid-template-columns: 1fr;
  }
}
</style>
