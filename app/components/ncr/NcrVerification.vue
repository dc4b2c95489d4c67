<script setup lang="ts">
import { useSession } from '~/stores/session'

/** Whether what was done holds: an inspector's word, and never of the one who did it. */
const props = defineProps<{ ncr: string; own: boolean }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const asking = ref(false)
const accepted = ref(true)
function ask(conforms: boolean) {
  accepted.value = conforms
  asking.value = true
}
async function verify(secret: string, text: string) {
  const body = { accepted: accepted.value, text, secret }
  await api(`${session.base}/ncrs/${props.ncr}/verification`, { body })
  emit('done')
}
</script>

<template>
  <h2>Verification</h2>
  <p v-if="!session.can('verify-ncr')" class="muted">An inspector who did not do the work verifies it.</p>
  <p v-else-if="own" class="muted">You answered this yourself: another inspector must look.</p>
  <template v-else>
    <div class="choices">
      <ElButton type="primary" size="large" @click="ask(true)">It conforms now</ElButton>
      <ElButton type="danger" plain size="large" @click="ask(false)">Send it back</ElButton>
    </div>
    <SecretDialog
      v-model="asking"
      :title="accepted ? 'It conforms now' : 'Send it back'"
      :action="accepted ? 'Verify and close' : 'Send back'"
      :danger="!accepted"
      reason-label="What you saw"
      reason-required
      :send="verify"
    />
  </template>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
