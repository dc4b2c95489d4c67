<script setup lang="ts">
import type { ClientWord } from '#core/ncr/concession'
import { useSession } from '~/stores/session'

/** Where the plan has the client hold the step, a concession needs the client’s word under it. */
const props = defineProps<{ ncr: string; word: ClientWord | null; people: Record<string, string> }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const times = useTimes()
const open = ref(false)
const agrees = ref(true)
function ask(yes: boolean) {
  agrees.value = yes
  open.value = true
}
async function say(secret: string, text: string) {
  await api(`${session.base}/ncrs/${props.ncr}/concession`, { body: { agrees: agrees.value, text, secret } })
  emit('done')
}
</script>

<template>
  <section class="client" aria-label="The client’s word">
    <h2>The client’s word</h2>
    <p v-if="word">
      <strong>{{ word.agrees ? 'Agreed' : 'Not agreed' }}</strong> by {{ people[word.by] }},
      {{ times.moment(word.at) }}: {{ word.text }}
    </p>
    <template v-else>
      <p class="muted">
        The plan has the client hold this step: it is used as it is when the client signs for it.
      </p>
      <div v-if="session.can('concede')" class="row wrap">
        <ElButton type="primary" size="large" @click="ask(true)">We agree</ElButton>
        <ElButton size="large" @click="ask(false)">We do not agree</ElButton>
      </div>
    </template>
    <SecretDialog
      v-model="open"
      :title="agrees ? 'The client agrees to the concession' : 'The client does not agree'"
      :action="agrees ? 'Sign' : 'Send it back to the engineer'"
      reason-label="On what grounds?"
      reason-required
      :send="say"
    />
  </section>
</template>

<style scoped>
.client {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
p {
  margin: 0;
}
</style>
