<script setup lang="ts">
import { uuidv7 } from 'uuidv7'

/** Takes something that bears entries out of the job, with a reason and the PIN. */
const props = defineProps<{ address: string; what: string }>()
const emit = defineEmits<{ withdrawn: [] }>()
const open = ref(false)
async function withdraw(secret: string, reason: string) {
  await api(`${props.address}/withdraw`, { body: { id: uuidv7(), reason, secret } })
  emit('withdrawn')
}
</script>

<template>
  <button type="button" class="quiet act" @click="open = true">Withdraw</button>
  <SecretDialog
    v-model="open"
    :title="`Withdraw ${what}`"
    action="Withdraw it"
    danger
    reason-label="Why is it no part of the job any more?"
    reason-required
    :send="withdraw"
  >
    <p class="muted">
      Its record stays and can be read. It asks nobody for anything, holds no test back, and what was built
      into it is free for another joint.
    </p>
  </SecretDialog>
</template>

<style scoped>
.act {
  min-height: 44px;
  padding: 0 4px;
  border: 0;
  background: none;
  font: inherit;
  cursor: pointer;
}
</style>
