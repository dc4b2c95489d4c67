<script setup lang="ts">
import type { Label } from '#core/delivery/gs1'
import { shelfEnd } from '#core/lots/shelf-life'
import { registeredLot } from '#core/checks/lot'
import { useSession } from '~/stores/session'
import { checkOf, type CheckEmits, type CheckProps } from './form'

/** The lot that is used, typed or read from its label, with what the register says of it. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const times = useTimes()
const session = useSession()
const check = computed(() => checkOf<'lot'>(props.step))
const lot = reactive({ lot: '', made: '', expires: '', opened: '' })
const scanning = ref(false)

const register = computed(() => {
  const known = registeredLot(props.sheet.lots, lot.lot)
  if (!known) return null
  if (known.quarantinedAt !== null)
    return { bad: true, says: `In quarantine: ${known.reason}. Take another lot.` }
  const end = shelfEnd(known, session.zone)
  if (!end) return null
  const bad = end.at < props.now
  const until = times.day(end.at)
  const says = `The register says: good until ${until} (${end.why}).`
  return { bad, says: bad ? `${says} It is past its date: take another lot.` : says }
})
const readLabel = (label: Label) =>
  Object.assign(lot, {
    lot: label.lot ?? lot.lot,
    made: label.made ?? '',
    expires: label.expires ?? label.bestBefore ?? '',
  })
/** the tin of the joint before, while nothing is typed */
const before = computed(() => {
  const { number, lots } = props.sheet.lotsBefore ?? { number: '', lots: {} as Record<string, object> }
  const used = lots[props.step.step.key] as Record<string, unknown> | undefined
  return used && lot.lot === '' ? { number, used } : null
})
function sameTin() {
  const { used } = before.value!
  for (const key of ['lot', 'made', 'expires', 'opened'] as const) lot[key] = String(used[key] ?? '')
  record()
}
const record = () => {
  const given = Object.entries(lot).map(([key, text]) => [key, text.trim()] as const)
  emit('answer', [{ kind: 'lot', payload: Object.fromEntries(given.filter(([, text]) => text)) }])
}
</script>

<template>
  <form class="lot" @submit.prevent="record">
    <div class="wide row">
      <label class="grow"
        >{{ check.question }}<ElInput v-model="lot.lot" size="large" maxlength="80"
      /></label>
      <ElButton size="large" class="scan" @click="scanning = true">Read a label</ElButton>
    </div>
    <ElButton v-if="before" size="large" class="wide same" :loading="busy" @click="sameTin"
      >Still {{ before.used.lot }}, as at {{ before.number }}</ElButton
    >
    <p v-if="register" class="wide" :class="register.bad ? 'bad' : 'muted'" role="status">
      {{ register.says }}
    </p>
    <DayField v-if="check.shelfLife || check.shelfMonths" v-model="lot.made" label="Production date" />
    <DayField v-model="lot.expires" label="Printed expiry" />
    <DayField v-if="check.openedLife" v-model="lot.opened" label="Opened on" />
    <ElButton
      size="large"
      type="primary"
      native-type="submit"
      class="big"
      :disabled="!lot.lot.trim()"
      :loading="busy"
      >Record</ElButton
    >
    <LabelScanner v-model="scanning" @read="readLabel" />
  </form>
</template>

<style scoped>
.lot {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-items: end;
  max-width: 560px;
}
.same {
  justify-self: start;
  min-height: 56px;
}
.scan {
  align-self: flex-end;
}
.bad {
  color: var(--rejected);
  font-weight: 600;
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 720px) {
  .lot {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
