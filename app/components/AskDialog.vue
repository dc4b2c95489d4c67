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
const fault = ref('')
const busy = ref(false)
watch(open, (now) => {
  if (!now) return
  text.value = ''
  fault.value = ''
})
async function go() {
  if (!text.value.trim()) return void (fault.value = 'Write a few words.')
  busy.value = true
  try {
    await props.send(text.value.trim())
    open.value = false
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not done.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <ElDialog v-model="open" :title="title" width="520px" align-center append-to-body>
    <form class="form" @submit.prevent="go">
      <slot />
      <label
        >{{ label }}<ElInput v-model="text" type="textarea" :rows="3" maxlength="2000" autofocus
      /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="actions">
        <ElButton size="large" @click="open = false">Back</ElButton>
        <ElButton size="large" type="primary" native-type="submit" :loading="busy">{{ action }}</ElButton>
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
  font-size: var(--s14);
  color: var(--muted);
}
</style>
