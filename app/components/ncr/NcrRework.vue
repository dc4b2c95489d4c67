<script setup lang="ts">
import { smallPicture } from '~/composables/smallPicture'
import { useSession } from '~/stores/session'

/** What the crew did about a report, with a picture of it. */
const props = defineProps<{ ncr: string }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const text = ref('')
const picture = ref<string | null>(null)
const { busy, words, want, send } = useSending('This was not recorded.')
async function record() {
  if (!text.value.trim()) return want('Say what was done.')
  await send(async () => {
    const body = { text: text.value.trim(), photo: picture.value }
    await api(`${session.base}/ncrs/${props.ncr}/rework`, { body })
    text.value = ''
    emit('done')
  })
}
async function take(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  await send(async () => {
    const kept = await api<{ id: string }>(`${session.base}/files`, { body: await smallPicture(file) })
    picture.value = kept.id
  })
}
</script>

<template>
  <p class="muted">Do the work, take the new reading at the step, then say here what was done.</p>
  <label>What was done<ElInput v-model="text" type="textarea" :rows="4" maxlength="2000" /></label>
  <label
    >Photo<input type="file" accept="image/*" capture="environment" @change="take" /><span v-if="picture">
      taken</span
    ></label
  >
  <p v-if="words" class="fault" role="alert">{{ words }}</p>
  <ElButton type="primary" size="large" :loading="busy" @click="record">Record what was done</ElButton>
</template>

<style scoped>
label {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
