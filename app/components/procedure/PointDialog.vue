<script setup lang="ts">
import { MOST_IN, occasions, rateWords, type Occasion } from '#core/plan/occasions'
import { parties, type Party } from '#core/plan/points'
import type { InterventionPoint } from '#core/procedure/types'
import type { ProposedPoint } from '#core/plan/proposed-point'
import { useSession } from '~/stores/session'
import { partyWords, pointWords } from '~/words'

/** A change of the plan: what it is, where and when it counts, and why. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  procedure: { key: string; title: string }
  step: { key: string; title: string } | null
  party: Party
  point: InterventionPoint | null
  line: string | null
  crew: string | null
  today: string
}>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const form = reactive({
  party: 'inspector' as Party,
  point: '' as InterventionPoint | '',
  every: 'counted' as 'counted' | Occasion,
  rate: 5,
  line: '',
  crew: '',
  from: '',
  until: '',
  good: undefined as number | undefined,
  reason: '',
})
const { busy, words, send, clear } = useSending('This was not sent.')
watch(open, (is) => {
  if (!is) return
  clear()
  Object.assign(form, {
    ...{ party: props.party, point: props.step ? (props.point ?? '') : 'H' },
    ...{ line: props.line ?? '', crew: props.crew ?? '', from: props.today, until: '', reason: '' },
    ...{ every: 'counted', rate: 5, good: props.step ? undefined : 10 },
  })
})
const points: (InterventionPoint | '')[] = ['H', 'W', 'S', 'R', '']
async function put() {
  const body: ProposedPoint = {
    procedure: props.procedure.key,
    step: props.step?.key ?? '*',
    party: form.party,
    point: form.point || null,
    rate: form.point !== 'S' ? null : form.every === 'counted' ? form.rate : form.every,
    line: form.line || null,
    crew: form.crew || null,
    from: form.from,
    until: form.until || null,
    good: props.step ? null : (form.good ?? null),
    reason: form.reason,
  }
  await send(async () => {
    await api(`${session.base}/points`, { body })
    open.value = false
    emit('done')
  })
}
</script>

<template>
  <DialogForm
    v-model="open"
    :title="step ? step.title : `Hold at every point of ${procedure.title}`"
    action="Put before a second engineer"
    width="660px"
    :busy="busy"
    :fault="words"
    :ready="form.reason.trim() !== ''"
    @send="put"
  >
    <p v-if="!step" class="muted">
      For a crew that is new: every point that the procedure has becomes a hold point, until so many joints in
      a row were good, until the last day, or until another change.
    </p>
    <label v-if="!step"
      >Until so many in a row were good; may stay empty<ElInputNumber
        v-model="form.good"
        size="large"
        :min="1"
        :max="100"
    /></label>
    <template v-if="step">
      <div class="field">
        <span id="point-party">For</span>
        <ElRadioGroup v-model="form.party" size="large" aria-labelledby="point-party">
          <ElRadioButton v-for="p in parties" :key="p" :value="p">{{ partyWords[p] }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div class="field">
        <span id="point-kind">It is</span>
        <ElRadioGroup v-model="form.point" size="large" aria-labelledby="point-kind">
          <ElRadioButton v-for="p in points" :key="p" :value="p">{{
            p ? pointWords[p] : 'Nothing'
          }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div v-if="form.point === 'S'" class="field">
        <span id="point-rate">Watched is</span>
        <ElRadioGroup v-model="form.every" size="large" aria-labelledby="point-rate">
          <ElRadioButton value="counted">one in so many</ElRadioButton>
          <ElRadioButton v-for="o in occasions" :key="o" :value="o">{{ rateWords(o) }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <label v-if="form.point === 'S' && form.every === 'counted'"
        >One in<ElInputNumber v-model="form.rate" size="large" :min="1" :max="MOST_IN"
      /></label>
    </template>
    <div class="two">
      <ScopeFields v-model:line="form.line" v-model:crew="form.crew" :every-crew="step !== null" />
      <DayField v-model="form.from" label="From" />
      <DayField v-model="form.until" label="Until, may stay open" />
    </div>
    <label>Why?<ElInput v-model="form.reason" size="large" maxlength="400" /></label>
    <p class="muted small">
      It counts once a second engineer has reviewed it, for what is opened from then on.
    </p>
  </DialogForm>
</template>

<style scoped>
label,
.field {
  display: flex;
  flex-direction: column;
  gap: 6px;
  font-size: var(--s14);
  color: var(--muted);
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 220px), 1fr));
  gap: 12px;
}
.field :deep(.el-radio-group) {
  flex-wrap: wrap;
  row-gap: 6px;
}
</style>
