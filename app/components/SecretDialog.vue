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
const { busy, words, want, clear, send: attempt } = useSending()

watch(open, (now) => {
  if (!now) return
  secret.value = ''
  reason.value = ''
  clear()
})
async function go() {
  if (props.reasonRequired && !reason.value.trim()) return want('Say why.')
  if (!secret.value) return want('Type your PIN.')
  await attempt(async () => {
    await props.send(secret.value, reason.value.trim())
    open.value = false
  })
}
</script>

<template>
  <DialogForm
    v-model="open"
    :title="title"
    :action="action"
    :danger="danger"
    :busy="busy"
    :fault="words"
    @send="go"
  >
    <slot />
    <FormField v-if="reasonLabel" :label="reasonLabel"
      ><ElInput v-model="reason" type="textarea" :rows="3" maxlength="2000"
    /></FormField>
    <PinField v-model="secret" />
  </DialogForm>
</template>
