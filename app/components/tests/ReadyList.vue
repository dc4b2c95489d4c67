<script setup lang="ts">
import IconCamera from '~icons/lucide/camera'
import type { WitnessJudgement } from '#core/judgement/witness'
import { WITNESS, type ReadyRow } from '#core/pressure/ready'
import { smallPicture } from '~/composables/smallPicture'
import { useSession } from '~/stores/session'

/** "Ready to test?": what the record says, with links, and what a person confirms on site. */
defineProps<{
  rows: ReadyRow[]
  witness: WitnessJudgement
  people: Record<string, string>
  mayConfirm: boolean
  /** nothing of the test is over: who sees it can still be said */
  open: boolean
  busy: boolean
}>()
const emit = defineEmits<{
  confirm: [row: string, picture: Blob | null]
  witness: [kind: 'invitation' | 'reply' | 'attendance', payload: Record<string, unknown>]
}>()
const session = useSession()
const now = useNow(10_000)
/** the row that a picture is taken for */
const shown = ref('')
const camera = ref<HTMLInputElement | null>(null)
function take(row: string) {
  shown.value = row
  camera.value?.click()
}
async function taken(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) emit('confirm', shown.value, await smallPicture(file).catch(() => file))
}
const paths: Record<string, string> = { joint: '/joints/', ncr: '/ncrs/', reach: '/embedment/' }
</script>

<template>
  <h2>Ready to test?</h2>
  <ul class="ready">
    <li v-for="r in rows" :key="r.key" :class="r.state">
      <StateGlyph
        :state="r.state === 'met' ? 'accepted' : r.state === 'open' ? 'blocked' : 'not-applicable'"
        :size="26"
      />
      <span class="grow"
        ><strong>{{ r.title }}</strong
        ><br /><span v-if="!(r.key === WITNESS && open)" class="small muted">{{ r.sentence }}</span
        ><span v-if="r.state === 'open' && r.evidence.length > 0" class="evidence"
          ><NuxtLink
            v-for="e in r.evidence.filter((x) => paths[x.type])"
            :key="e.id"
            :to="paths[e.type] + e.id"
            >{{ e.label }}</NuxtLink
          ></span
        ><a
          v-if="r.photo"
          :href="`/api/${session.base}/files/${r.photo}`"
          target="_blank"
          rel="noopener"
          class="picture"
          ><img :src="`/api/${session.base}/files/${r.photo}`" :alt="`Photo: ${r.title}`" loading="lazy" /></a
      ></span>
      <span v-if="r.confirmable && r.state === 'open' && mayConfirm" class="acts">
        <ElButton size="large" :disabled="busy" @click="$emit('confirm', r.key, null)">Confirm</ElButton>
        <ElButton
          v-if="r.key !== WITNESS"
          size="large"
          :disabled="busy"
          :aria-label="`Confirm with a photo: ${r.title}`"
          title="With a photo"
          @click="take(r.key)"
          ><IconCamera aria-hidden="true"
        /></ElButton>
      </span>
      <WitnessPoint
        v-if="r.key === WITNESS && open"
        class="who"
        :witness="witness"
        :people="people"
        :now="now"
        :may-record="mayConfirm"
        :may-answer="session.can('answer-invitation')"
        @say="(kind, payload) => $emit('witness', kind, payload)"
      />
    </li>
  </ul>
  <input
    ref="camera"
    type="file"
    accept="image/*"
    capture="environment"
    class="visually-hidden"
    tabindex="-1"
    aria-label="Photo of what is confirmed"
    @change="taken"
  />
</template>

<style scoped>
.ready {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 12px;
  align-items: flex-start;
  padding: 9px 0;
  border-top: 1px solid var(--hair);
}
.glyph {
  margin-top: 3px;
}
li > .grow {
  flex: 1 1 180px;
}
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.acts {
  display: flex;
  gap: 8px;
}
.acts .el-button {
  margin: 0;
}
.who {
  flex: 1 0 100%;
}
.picture img {
  display: block;
  max-width: 180px;
  max-height: 120px;
  margin-top: 8px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
}
.evidence a {
  display: inline-block;
  padding: 8px 0;
}
</style>
