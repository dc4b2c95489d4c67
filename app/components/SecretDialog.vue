<script setup lang="ts">
/** A sign-off asks again who it is. The reason field shows when the act needs one. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  title: string
  action: string
  reasonLabel?: string
  reasonRequired?: boolean
  danger?: boolean
  send: (secret: string, reason: string) => Promise<void>
}>()
const secret = ref('')
const reason = ref('')
const fault = ref('')
const busy = ref(false)

watch(open, (now) => {
  if (!now) return
  secret.value = ''
  reason.value = ''
  fault.value = ''
})
async function go() {
  if (props.reasonRequired && !reason.value.trim()) return void (fault.value = 'Say why.')
  if (!secret.value) return void (fault.value = 'Type your PIN.')
  busy.value = true
  fault.value = ''
  try {
    await props.send(secret.value, reason.value.trim())
    open.value = false
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not done.'
    if (!(error instanceof ApiProblem)) console.error(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <ElDialog v-model="open" :title="title" width="520px" align-center append-to-body>
    <form class="form" @submit.prevent="go">
      <slot />
      <label v-if="reasonLabel"
        >{{ reasonLabel }}<ElInput v-model="reason" type="textarea" :rows="3" maxlength="2000"
      /></label>
      <label
        >PIN or password<ElInput
          v-model="secret"
          type="password"
          inputmode="numeric"
          autocomplete="off"
          size="large"
      /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="actions">
        <ElButton size="large" @click="open = false">Back</ElButton>
        <ElButton size="large" :type="danger ? 'danger' : 'primary'" native-type="submit" :loading="busy">{{
          action
        }}</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
label {
  display: block;
  font-size: var(--s14);
  color: var(--muted);
}
</style>
