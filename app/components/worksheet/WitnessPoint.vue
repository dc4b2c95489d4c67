<script setup lang="ts">
import { DateTime } from 'luxon'
import type { WitnessJudgement } from '#core/judgement/witness'
import { useSession } from '~/stores/session'

/** The witness point of a step: who was asked and for when, what was answered, who came. */
const props = defineProps<{
  witness: WitnessJudgement
  people: Record<string, string>
  now: number
  mayRecord: boolean
  mayAnswer: boolean
}>()
const emit = defineEmits<{
  say: [kind: 'invitation' | 'reply' | 'attendance', payload: Record<string, unknown>]
}>()
const session = useSession()
const times = useTimes()
/** the usual notice from now, to the next quarter of an hour */
const usual = () => {
  const at = DateTime.fromMillis(props.now + 2 * 3_600_000 + 60_000, { zone: session.zone })
  return at.plus({ minutes: (15 - (at.minute % 15)) % 15 }).startOf('minute')
}
const asking = ref(false)
const day = ref('')
const time = ref('')
function ask() {
  asking.value = true
  day.value = usual().toISODate()!
  time.value = usual().toFormat('HH:mm')
}
const wanted = computed(() => DateTime.fromISO(`${day.value}T${time.value}`, { zone: session.zone }))
function invite() {
  emit('say', 'invitation', { for: wanted.value.toUTC().toISO({ suppressMilliseconds: true }) })
  asking.value = false
}
const invitedSays = computed(() =>
  props.witness.for === null
    ? ''
    : `Invited ${times.moment(props.witness.invitedAt!)} for ${times.moment(props.witness.for)}.`,
)
const answeredSays = computed(() =>
  props.witness.at !== null && props.witness.by
    ? `${props.people[props.witness.by] ?? ''}, ${times.moment(props.witness.at)}.`
    : '',
)
const over = computed(() => ['attended', 'absent'].includes(props.witness.state))
const due = computed(() => props.witness.for !== null && props.now >= props.witness.for)
</script>

<template>
  <section class="witness" aria-label="Witness point">
    <p>
      <strong>{{ witness.sentence }}</strong>
      {{ invitedSays }}
      <span class="muted">{{ answeredSays }}</span>
    </p>
    <div class="row wrap">
      <template v-if="mayRecord && !over">
        <ElButton v-if="!asking" size="large" @click="ask">{{
          witness.state === 'not-invited' ? 'Invite the witness' : 'Invite again'
        }}</ElButton>
        <form v-else class="ask" @submit.prevent="invite">
          <DayField v-model="day" label="Day" />
          <label>Time<ElInput v-model="time" size="large" type="time" /></label>
          <ElButton type="primary" size="large" native-type="submit" :disabled="!wanted.isValid"
            >Invite</ElButton
          >
          <ElButton size="large" text @click="asking = false">Not now</ElButton>
        </form>
        <ElButton
          v-if="witness.for !== null && due && !asking"
          size="large"
          @click="emit('say', 'attendance', { present: false })"
          >The witness was not there: go on</ElButton
        >
      </template>
      <template v-if="mayAnswer && witness.for !== null && !over">
        <ElButton
          v-if="witness.state !== 'accepted'"
          type="primary"
          size="large"
          @click="emit('say', 'reply', { accepts: true })"
          >I will come</ElButton
        >
        <ElButton
          v-if="witness.state !== 'declined'"
          size="large"
          @click="emit('say', 'reply', { accepts: false })"
          >I do not come</ElButton
        >
        <ElButton size="large" @click="emit('say', 'attendance', { present: true })">I was there</ElButton>
      </template>
    </div>
  </section>
</template>

<style scoped>
.witness {
  border-left: 4px solid var(--line);
  padding: 10px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
p {
  margin: 0;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 10px;
}
</style>
