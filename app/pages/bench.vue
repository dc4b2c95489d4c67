<script setup lang="ts">
import { answer, type Answer } from '#core/calculators/define'
import { calculatorsBySubject, findCalculator } from '#core/calculators/registry'
import type { InputDescription } from '#core/calculators/input'
import { dimensions } from '#core/quantity/dimension'
import { showNumber } from '#core/quantity/show'
import { Problem } from '#core/problem'
import type { DimensionKey } from '#core/quantity/dimension'
import { benchDrawing } from '~/drawings/bench'
import { drawnFamilies } from '~/drawings/families'
import { useCarry } from '~/stores/carry'
import { quantityWord, subjectWords } from '~/words'

const route = useRoute()
const key = ref(typeof route.query.calculator === 'string' ? route.query.calculator : 'ovality')
watch(() => route.query.calculator, (k) => typeof k === 'string' && (key.value = k))
const calculator = computed(() => {
  try {
    return findCalculator(key.value)
  } catch {
    return findCalculator('ovality')
  }
})
const texts = ref<Record<string, string>>({})
watch(calculator, () => (texts.value = {}))
const unit = (d: InputDescription): string => (d.kind === 'list' ? unit(d.of!) : d.unit ?? (d.dimension ? dimensions[d.dimension].unit : ''))
const withUnit = (text: string, d: InputDescription) => (/^[+−-]?[\d.,\s/]+$/.test(text.trim()) && unit(d) ? `${text.trim()} ${unit(d)}` : text)
function gather(): Record<string, unknown> {
  const out: Record<string, unknown> = {}
  for (const [name, input] of Object.entries(calculator.value.inputs)) {
    const text = texts.value[name]?.trim()
    if (!text) continue
    const d = input.describe
    if (d.kind === 'list' && d.of?.kind === 'record') {
      const fields = Object.keys(d.of.fields!)
      out[name] = text.split(/[;\n]+/).filter((r) => r.trim()).map((row) => Object.fromEntries(row.split(',').map((cell, i) => [fields[i] ?? 'extra', cell.trim()] as const).filter(([, cell]) => cell !== '').map(([field, cell]) => [field, withUnit(cell, d.of!.fields![field] ?? { kind: 'quantity' })])))
    } else if (d.kind === 'list') out[name] = text.split(/[;,]\s+|;/).map((t) => withUnit(t, d.of!))
    else out[name] = d.kind === 'quantity' ? withUnit(text, d) : text
  }
  return out
}
const result = computed<{ answer?: Answer; problem?: Problem; drawing?: ReturnType<typeof benchDrawing> }>(() => {
  if (Object.values(texts.value).every((t) => !t?.trim())) return {}
  try {
    const inputs = gather()
    const values = calculator.value.read(inputs)
    return { answer: answer(calculator.value, inputs), drawing: benchDrawing(calculator.value.key, values, calculator.value.compute(values).outputs) }
  } catch (error) {
    if (error instanceof Problem) return { problem: error }
    throw error
  }
})
const show = (v: unknown): string => {
  if (v === null) return '–'
  if (Array.isArray(v)) return v.map(show).join(', ')
  if (typeof v === 'object' && v !== null && 'value' in v && (v as { unit?: string }).unit === 'deg') return `${showNumber((v as { value: number }).value, 6)}°`
  // Lengths of the trade are read in millimetres until they are as long as a pipe.
  if (typeof v === 'object' && v !== null && 'value' in v && (v as { unit?: string }).unit === 'm' && Math.abs((v as { value: number }).value) < 5) return `${showNumber((v as { value: number }).value * 1000, 6)} mm`
  if (typeof v === 'object' && v !== null && 'value' in v) return `${showNumber((v as { value: number }).value, 6)} ${(v as { unit?: string }).unit ?? ''}`
  return typeof v === 'number' ? showNumber(v, 6) : String(v)
}
const hint = (d: InputDescription): string => (d.kind === 'list' && d.of?.kind === 'record' ? `${Object.keys(d.of.fields!).join(', ')}; one row each, rows apart by ;` : d.kind === 'list' ? 'several, set apart by ;' : d.kind === 'time' ? '2026-03-09T08:15:00Z' : d.default !== undefined ? `default ${String(d.default)}` : d.optional ? 'may stay empty' : '')
const carry = useCarry()
const carried = ref('')
watch(calculator, () => (carried.value = ''))
/** An output that a check can take: a number with a dimension. */
const sendable = (name: string, v: unknown): DimensionKey | null => {
  const kind = calculator.value.outputs[name]
  return typeof v === 'object' && v !== null && 'value' in v && kind !== undefined && kind in dimensions ? (kind as DimensionKey) : null
}
function send(name: string, v: unknown) {
  carry.result = { text: show(v).replace(/−/g, '-').trim(), dimension: sendable(name, v)!, from: calculator.value.title }
  carried.value = name
}
const word = (name: string) => quantityWord(name, calculator.value.key)
/** A refusal names the input as the form does. */
const said = ({ field, message }: Problem) => (field !== null && message.startsWith(`${field} `) ? word(field) + message.slice(field.length) : message)
const copy = () => navigator.clipboard?.writeText(JSON.stringify(result.value.answer?.outputs))
</script>

<template>
  <div class="bench">
    <nav class="list" aria-label="Calculators">
      <template v-for="(calculators, subject) in calculatorsBySubject" :key="subject">
        <h3>{{ subjectWords[subject] ?? subject }}</h3>
        <button v-for="c in calculators" :key="c.key" type="button" :class="{ here: c.key === calculator.key }" :aria-current="c.key === calculator.key || undefined" @click="key = c.key">{{ c.title }}</button>
      </template>
    </nav>
    <section class="work">
      <h1>{{ calculator.title }}</h1>
      <ul v-if="calculator.cautions.length" class="cautions"><li v-for="c in calculator.cautions" :key="c">{{ c }}</li></ul>
      <form class="inputs" @submit.prevent>
        <div v-for="(input, name) in calculator.inputs" :key="`${calculator.key} ${name}`" class="field" :class="{ wrong: result.problem?.field === name }">
          <span>{{ word(String(name)) }} <span class="muted">{{ hint(input.describe) }}</span></span>
          <ElSelect v-if="input.describe.choices" v-model="texts[name]" clearable :aria-label="word(String(name))"><ElOption v-for="c in input.describe.choices" :key="c" :value="c" :label="c" /></ElSelect>
          <ElSelect v-else-if="input.describe.kind === 'flag'" v-model="texts[name]" clearable :aria-label="word(String(name))"><ElOption value="true" label="yes" /><ElOption value="false" label="no" /></ElSelect>
          <ElInput v-else v-model="texts[name]" size="large" maxlength="400" :aria-label="word(String(name))"><template v-if="unit(input.describe)" #append>{{ unit(input.describe) }}</template></ElInput>
        </div>
      </form>
      <p v-if="result.problem" class="fault" role="alert">{{ said(result.problem) }}</p>
      <template v-if="result.answer">
        <dl class="outputs"><div v-for="(v, k) in result.answer.outputs" :key="k"><dt>{{ word(String(k)) }}</dt><dd><span class="reading">{{ show(v) }}</span><button v-if="sendable(String(k), v)" type="button" class="send" @click="send(String(k), v)">{{ carried === k ? 'Sent' : 'Send to a check' }}</button></dd></div></dl>
        <p v-if="carried" class="muted small" role="status">The next reading of that kind offers it: open the joint and its step.</p>
        <div v-if="result.drawing" class="drawn"><component :is="drawnFamilies[result.drawing.show]" :values="result.drawing.values" :readings="result.drawing.readings" :angles="result.drawing.angles" :part="result.drawing.part" :taps="[]" /></div>
        <ul class="working mono"><li v-for="w in result.answer.working" :key="w">{{ w }}</li></ul>
        <ElButton @click="copy">Copy the result</ElButton>
      </template>
      <p class="muted small">{{ calculator.source }}</p>
    </section>
  </div>
</template>

<style scoped>
.drawn {
  width: 404px;
  max-width: 100%;
}
.send {
  display: block;
  min-height: 44px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--line);
  font: inherit;
  font-size: var(--s14);
  font-weight: 600;
  text-decoration: underline;
  cursor: pointer;
}
.bench {
  height: 100%;
  display: grid;
  grid-template-columns: 300px 1fr;
}
.list {
  overflow-y: auto;
  border-right: 1px solid var(--hair);
  background: var(--card);
  padding-bottom: 16px;
}
.list h3 {
  padding: 14px 16px 4px;
  color: var(--muted);
  font-size: var(--s14);
}
.list button {
  display: block;
  width: 100%;
  min-height: 44px;
  padding: 6px 14px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  font-size: var(--s16);
  cursor: pointer;
}
.list .here {
  background: var(--wash);
  border-left-color: var(--line);
  font-weight: 650;
}
.work {
  overflow-y: auto;
  padding: 20px 28px;
  display: flex;
  flex-direction: column;
  gap: 16px;
  align-items: flex-start;
}
.inputs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 14px 20px;
  width: 100%;
}
.field > span:first-child {
  display: block;
  margin-bottom: 4px;
  color: var(--ink);
  font-size: var(--s14);
  font-weight: 600;
}
.field .muted {
  font-weight: 400;
}
.wrong {
  color: var(--rejected);
}
.outputs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(215px, 1fr));
  gap: 10px 24px;
  width: 100%;
  margin: 0;
}
dt {
  font-size: var(--s14);
  color: var(--muted);
}
dd {
  margin: 0;
}
.working {
  margin: 0;
  padding: 12px 16px 12px 32px;
  background: var(--wash);
  font-size: var(--s14);
  overflow-wrap: anywhere;
}
.cautions {
  margin: 0;
  padding: 8px 14px 8px 30px;
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
}
</style>
