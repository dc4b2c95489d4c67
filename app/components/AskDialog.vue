<script setup lang="ts">
/** Asks for one sentence, such as why an entry is struck. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  title: string
  label: string
  action: string
  send: (text: string) => Promise<void>
}>()
const text = ref('')
const { busy, words, want, clear, send: attempt } = useSending()
watch(open, (now) => {
  if (!now) return
  text.value = ''
  clear()
})
async function go() {
  if (!text.value.trim()) return want('Write a few words.')
  await attempt(async () => {
    await props.send(text.value.trim())
    open.value = false
  })
}
</script>

<template>
  <DialogForm v-model="open" :title="title" :action="action" :busy="busy" :fault="words" @send="go">
    <slot />
    <FormField :label="label"
      ><ElInput v-model="text" type="textarea" :rows="3" maxlength="2000" autofocus
    /></FormField>
  </DialogForm>
</template>
