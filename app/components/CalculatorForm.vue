<script setup lang="ts">
import { findUnit, toSi } from '#core/quantity/units'
import { isBare, unitShown } from '#core/quantity/site-units'
import { answer, type Answer, type Calculator } from '#core/calculators/define'
import type { InputDescription } from '#core/calculators/input'
import { dimensions, type DimensionKey } from '#core/quantity/dimension'
import { showNumber, showQuantity } from '#core/quantity/show'
import { Problem } from '#core/problem'
import { benchDrawing } from '~/drawings/bench'
import { benchPlot } from '~/drawings/bench-plots'
import { drawnFamilies } from '~/drawings/families'
import { useCarry } from '~/stores/carry'
import { quantityWord } from '~/words'

/**
 * The inputs of one calculator, what it answers, its working and its drawing; a result can be sent to a
 * check.
 */
const props = withDefaults(
  defineProps<{ calculator: Calculator; given?: Record<string, string>; small?: boolean }>(),
  { given: () => ({}), small: false },
)
const texts = ref<Record<string, string>>({})
watch(
  [() => props.calculator, () => props.given],
  ([calculator], before) => {
    // What was typed stays while only what is given beforehand changes.
    texts.value = before && before[0] === calculator ? { ...props.given, ...texts.value } : { ...props.given }
  },
  { immediate: true },
)

const unit = (d: InputDescription): string =>
  d.kind === 'list' ? unit(d.of!) : unitShown(d.unit ?? (d.dimension ? dimensions[d.dimension].unit : ''))
const withUnit = (text: string, d: InputDescription) =>
  isBare(text) && unit(d) ? `${text.trim()} ${unit(d)}` : text
function gather(): Record<string, unknown> {
  const out: Record<string, unknown> = {}
  for (const [name, input] of Object.entries(props.calculator.inputs)) {
    const text = texts.value[name]?.trim()
    if (!text) continue
    const d = input.describe
    if (d.kind === 'list' && d.of?.kind === 'record') {
      const fields = Object.keys(d.of.fields!)
      const cells = (row: string) =>
        row
          .split(',')
          .map((cell, i) => [fields[i] ?? 'extra', cell.trim()] as const)
          .filter(([, cell]) => cell !== '')
      out[name] = text
        .split(/[;\n]+/)
        .filter((r) => r.trim())
        .map((row) =>
          Object.fromEntries(
            cells(row).map(([field, cell]) => [
              field,
              withUnit(cell, d.of!.fields![field] ?? { kind: 'quantity' }),
            ]),
          ),
        )
    } else if (d.kind === 'list') out[name] = text.split(/[;,]\s+|;/).map((t) => withUnit(t, d.of!))
    else out[name] = d.kind === 'quantity' ? withUnit(text, d) : text
  }
  return out
}
/** an input without which there is no answer is still empty */
const waiting = computed(() =>
  Object.entries(props.calculator.inputs).some(
    ([name, input]) => !texts.value[name]?.trim() && !input.absent && !input.describe.optional,
  ),
)
const untouched = computed(() =>
  Object.entries(texts.value).every(([name, t]) => !t?.trim() || t === props.given[name]),
)
interface Result {
  answer?: Answer
  problem?: Problem
  drawing?: ReturnType<typeof benchDrawing>
  plot?: ReturnType<typeof benchPlot>
}
const result = computed<Result>(() => {
  if (untouched.value && waiting.value) return {}
  try {
    const inputs = gather()
    const values = props.calculator.read(inputs)
    return {
      answer: answer(props.calculator, inputs),
      drawing: benchDrawing(props.calculator.key, values, props.calculator.compute(values).outputs),
      plot: benchPlot(props.calculator.key, values),
    }
  } catch (error) {
    if (error instanceof Problem) return { problem: error }
    throw error
  }
})
const measured = (v: unknown): v is { value: number; unit?: string } =>
  typeof v === 'object' && v !== null && 'value' in v
const show = (v: unknown): string => {
  if (v === null) return '–'
  if (v === true || v === false) return v ? 'yes' : 'no'
  if (Array.isArray(v)) return v.map(show).join(', ')
  if (!measured(v)) return typeof v === 'number' ? showNumber(v, 6) : String(v)
  if (v.unit === 'deg') return `${showNumber(v.value, 6)}°`
  // Lengths of the trade are read in millimetres until they are as long as a pipe.
  const found = findUnit(v.unit ?? '')
  if (!found) return `${showNumber(v.value, 6)} ${v.unit ?? ''}`
  const small = found.symbol === 'm' && Math.abs(v.value) < 5
  return showQuantity(toSi(v.value, found), found.dimension, small ? 'mm' : found.symbol, 6)
}
function hint(d: InputDescription): string {
  if (d.kind === 'list')
    return d.of?.kind === 'record'
      ? `${Object.keys(d.of.fields!).join(', ')}; one row each, rows apart by ;`
      : 'several, set apart by ;'
  if (d.kind === 'time') return '2026-03-09T08:15:00Z'
  return d.default !== undefined ? `default ${String(d.default)}` : d.optional ? 'may stay empty' : ''
}
const carry = useCarry()
const carried = ref('')
watch(
  () => props.calculator,
  () => (carried.value = ''),
)
/** An output that a check can take: a number with a dimension. */
const sendable = (name: string, v: unknown): DimensionKey | null => {
  const kind = props.calculator.outputs[name]
  return measured(v) && kind !== undefined && kind in dimensions ? (kind as DimensionKey) : null
}
function send(name: string, v: unknown) {
  carry.result = {
    text: show(v).replace(/−/g, '-').trim(),
    dimension: sendable(name, v)!,
    from: props.calculator.title,
  }
  carried.value = name
}
const word = (name: string) => quantityWord(name, props.calculator.key)
const copy = () => navigator.clipboard?.writeText(JSON.stringify(result.value.answer?.outputs))
</script>

<template>
  <div class="calculator">
    <ul v-if="calculator.cautions.length" class="cautions">
      <li v-for="c in calculator.cautions" :key="c">{{ c }}</li>
    </ul>
    <form class="inputs" @submit.prevent>
      <div
        v-for="(input, name) in calculator.inputs"
        :key="`${calculator.key} ${name}`"
        class="field"
        :class="{ wrong: result.problem?.field === name }"
      >
        <span
          >{{ word(String(name)) }} <span class="muted">{{ hint(input.describe) }}</span></span
        >
        <ElSelect
          v-if="input.describe.choices"
          v-model="texts[name]"
          clearable
          :aria-label="word(String(name))"
          ><ElOption v-for="c in input.describe.choices" :key="c" :value="c" :label="c"
        /></ElSelect>
        <ElSelect
          v-else-if="input.describe.kind === 'flag'"
          v-model="texts[name]"
          clearable
          :aria-label="word(String(name))"
          ><ElOption value="true" label="yes" /><ElOption value="false" label="no"
        /></ElSelect>
        <ElInput v-else v-model="texts[name]" size="large" maxlength="400" :aria-label="word(String(name))"
          ><template v-if="unit(input.describe)" #append>{{ unit(input.describe) }}</template></ElInput
        >
      </div>
    </form>
    <p v-if="result.problem" class="fault" role="alert">{{ result.problem.named(word) }}</p>
    <template v-if="result.answer">
      <dl class="outputs">
        <div v-for="(v, k) in result.answer.outputs" :key="k">
          <dt>{{ word(String(k)) }}</dt>
          <dd>
            <span class="reading">{{ show(v) }}</span><button
              v-if="sendable(String(k), v)"
              type="button"
              class="send"
              @click="send(String(k), v)"
            >
              {{ carried === k ? 'Sent' : 'Send to a check' }}
            </button>
          </dd>
        </div>
      </dl>
      <p v-if="carried" class="muted small" role="status">
        The next reading of that kind offers it: open the joint and its step.
      </p>
      <component :is="result.plot.show" v-if="result.plot" v-bind="result.plot.props" />
      <div v-if="result.drawing" class="drawn">
        <component
          :is="drawnFamilies[result.drawing.show]"
          :values="result.drawing.values"
          :readings="result.drawing.readings"
          :angles="result.drawing.angles"
          :part="result.drawing.part"
          :taps="[]"
        />
      </div>
      <ul class="working mono">
        <li v-for="w in result.answer.working" :key="w">{{ w }}</li>
      </ul>
      <ElButton v-if="!small" @click="copy">Copy the result</ElButton>
    </template>
    <p class="muted small">{{ calculator.source }}</p>
  </div>
</template>

<style scoped>
.calculator {
  display: flex;
  flex-direction: column;
  gap: 16px;
  align-items: flex-start;
  width: 100%;
}
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
.inputs {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 230px), 1fr));
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
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
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
