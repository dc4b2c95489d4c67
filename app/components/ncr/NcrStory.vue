<script setup lang="ts">
import type { Cause } from '#core/ncr/causes'
import type { ncrSheet } from '../../../server/services/ncrs'
import { useSession } from '~/stores/session'
import { causeWords, dispositionWords, entryWords } from '~/words'

/** What became of a report, entry by entry, in words. */
type Sheet = Awaited<ReturnType<typeof ncrSheet>>
const props = defineProps<{ entries: Sheet['entries']; people: Sheet['people'] }>()
const session = useSession()
const times = useTimes()
const say = (e: Sheet['entries'][number]): string => {
  const p = e.payload
  if (e.kind === 'raise') return `${String(p.criterion)} – found ${String(p.reading)}`
  if (e.kind === 'disposition') {
    const why = p.cause ? ` Cause: ${causeWords[p.cause as Cause].toLowerCase()}.` : ''
    const until = p.due ? ` Until ${times.date(String(p.due))}.` : ''
    return `${dispositionWords[String(p.disposition)]}: ${String(p.reason)}${why}${until}`
  }
  if (e.kind === 'action')
    return `${String(p.text)} (${props.people[String(p.owner)] ?? ''}, until ${times.date(String(p.due))})`
  if (e.kind === 'concession') return `${p.agrees ? 'Agrees' : 'Does not agree'}: ${String(p.text)}`
  if (e.kind === 'verification') return `${p.accepted ? 'Accepted' : 'Sent back'}: ${String(p.text)}`
  return String(p.text ?? '')
}
</script>

<template>
  <ol class="log">
    <li v-for="e in entries" :key="e.id">
      <span class="muted small">{{ times.moment(e.recordedAt) }}</span><span
        ><strong>{{ entryWords[e.kind] }}</strong
        >, {{ people[e.person] }}<br />{{ say(e)
        }}<template v-if="e.kind === 'rework' && e.payload.photo"
          ><br /><a :href="`/api/${session.base}/files/${String(e.payload.photo)}`" target="_blank"
            >picture</a
          ></template
        ></span
      >
    </li>
  </ol>
</template>

<style scoped>
.log {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
}
.log li {
  display: grid;
  grid-template-columns: 92px 1fr;
  gap: 12px;
  padding: 10px 0;
  border-top: 1px solid var(--hair);
}
</style>
