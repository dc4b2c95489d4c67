<script setup lang="ts">
import { answering, definitionOf, type Check } from '#core/checks/registry'
import type { Fault } from '#core/checks/verdict'
import type { OnceAnswered } from '#core/judgement/standing'
import type { Entry } from '#core/record/entry'
import { lateSentences, type LateReason } from '#core/record/late'
import { againWords, entryWords } from '~/words'

/** What stands written at this step, ink and all: struck entries stay readable. */
const props = defineProps<{
  entries: Entry[]
  check: Check
  people: Record<string, string>
  project: string
  /** of a step that takes many entries: what is wrong with which, and which is looked at */
  faults?: readonly Fault[]
  chosen?: string | null
  may?: boolean
}>()
defineEmits<{ choose: [string]; again: [string]; strike: [string] }>()
const many = computed(() => definitionOf(props.check).judgeAll !== undefined)
const wrong = (e: Entry) => props.faults?.filter((f) => f.entry === e.id) ?? []
const times = useTimes()
const corrections = computed(
  () =>
    new Map(props.entries.filter((e) => e.kind === 'correction').map((e) => [String(e.payload.strikes), e])),
)
const shown = computed(() => {
  const list = props.entries.filter((e) => e.kind !== 'correction')
  // Where there are many, the last is looked at most.
  return many.value ? list.reverse() : list
})
/** Where an answer was given that stands here too. */
const elsewhere = (e: Entry) => e.payload.once as OnceAnswered | undefined
/** Why its time proves nothing. */
const lateWords = (e: Entry) =>
  lateSentences[(e as Entry & { lateReason?: LateReason }).lateReason ?? 'no-stamp']
const text = (e: Entry): string => {
  const p = e.payload
  if (answering.has(e.kind)) return definitionOf(props.check).describe.entry(p, props.check, e.kind)
  if (e.kind === 'ncr') return `${String(p.number)} ${String(p.event)}`
  if (e.kind === 'invitation') return `for ${times.moment(Date.parse(String(p.for)))}`
  if (e.kind === 'reply') return p.accepts === true ? 'comes' : 'does not come'
  if (e.kind === 'attendance') return p.present === true ? 'was there' : 'was not there'
  if (e.kind === 'decision')
    return `${p.stands ? 'one answer stands' : p.verdict === 'again' ? 'measure again' : String(p.verdict)}: ${String(p.reason)}`
  return String(p.text ?? p.reason ?? p.note ?? '')
}
</script>

<template>
  <ol v-if="shown.length > 0" class="record" aria-label="Record of this step">
    <li
      v-for="e in shown"
      :key="e.id"
      :class="{ struck: corrections.has(e.id), here: e.id === chosen, many, wrong: wrong(e).length > 0 }"
      @click="many && answering.has(e.kind) && $emit('choose', e.id)"
    >
      <span class="muted small time">{{ times.moment(e.recordedAt) }}</span>
      <span class="grow">
        <span class="entry"
          ><strong>{{ entryWords[e.kind] ?? e.kind }}</strong>
          <a
            v-if="e.kind === 'photo'"
            :href="`/api/projects/${project}/files/${String(e.payload.file)}`"
            target="_blank"
            >picture</a
          ><template v-else>{{ text(e) }}</template></span
        >
        <span class="muted small who">{{ people[e.person] ?? '' }}</span>
        <span v-if="elsewhere(e)" class="muted small"
          >answered once, at {{ elsewhere(e)!.at }}, {{ times.moment(elsewhere(e)!.answeredAt) }}</span
        >
        <span v-if="answering.has(e.kind) && e.payload.reason" class="why small"
          >again: {{ e.payload.reason }}</span
        >
        <span v-for="f in wrong(e)" :key="f.code" class="why small">{{ f.sentence }}</span>
        <span v-if="many && may && e.id === chosen && !corrections.has(e.id)" class="row acts">
          <ElButton size="large" @click.stop="$emit('again', e.id)">{{ againWords[e.kind] }}</ElButton>
          <ElButton size="large" @click.stop="$emit('strike', e.id)">Strike</ElButton>
        </span>
        <span v-if="e.late" class="why small"
          >late{{ e.receivedAt === undefined ? '' : ` by ${times.span(e.receivedAt - e.recordedAt)}` }}:
          {{ lateWords(e) }}</span
        >
        <span v-if="corrections.has(e.id)" class="why small"
          >struck by {{ people[corrections.get(e.id)!.person] }}:
          {{ corrections.get(e.id)!.payload.reason }}</span
        >
      </span>
    </li>
  </ol>
</template>

<style scoped>
.entry strong {
  margin-right: 8px;
}
.record {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 12px;
  padding: 6px 0;
  border-top: 1px solid var(--hair);
}
.time {
  width: 84px;
  flex: none;
}
.struck .entry {
  text-decoration: line-through;
  text-decoration-thickness: 2px;
  color: var(--muted);
}
.who {
  margin-left: 10px;
}
.why {
  display: block;
  color: var(--held);
}
</style>
