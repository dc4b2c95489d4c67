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
async function take(file: File) {
  await send(async () => {
    const kept = await api<{ id: string }>(`${session.base}/files`, { body: await smallPicture(file) })
    picture.value = kept.id
  })
}
</script>

<template>
  <p class="muted">Do the work, take the new reading at the step, then say here what was done.</p>
  <FormField label="What was done"
    ><ElInput v-model="text" type="textarea" :rows="4" maxlength="2000"
  /></FormField>
  <div class="row">
    <FileButton
      :label="picture ? 'Another photo' : 'Photo'"
      name="Photo"
      accept="image/*"
      camera
      :disabled="busy"
      @chosen="take"
    />
    <img v-if="picture" :src="`/api/${session.base}/files/${picture}`" alt="Photo of what was done" />
  </div>
  <p v-if="words" class="fault" role="alert">{{ words }}</p>
  <ElButton type="primary" size="large" :loading="busy" @click="record">Record what was done</ElButton>
</template>

<style scoped>
img {
  height: 72px;
  border: 1px solid var(--hair);
}
</style>
