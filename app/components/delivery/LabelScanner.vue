<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { readLabel, type Label } from '#core/delivery/gs1'
import { Problem } from '#core/problem'
import { readPicture } from '~/composables/useLabels'

/** A label read by camera, from a picture, or typed as it is printed under the symbol. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ read: [Label] }>()
const text = ref('')
const fault = ref('')
const busy = ref(false)
const video = ref<HTMLVideoElement | null>(null)
const stream = shallowRef<MediaStream | null>(null)
const label = ref<Label | null>(null)

function take(raw: string) {
  text.value = raw
  fault.value = ''
  label.value = null
  try {
    label.value = readLabel(raw, new Date().getFullYear())
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    fault.value = error.message
  }
}
async function fromPicture(picture: File) {
  busy.value = true
  fault.value = ''
  label.value = null
  try {
    const found = await readPicture(picture)
    if (found) take(found)
    else fault.value = 'No label was found in this picture: nearer, flat, and without shine.'
  } catch {
    fault.value = 'This picture cannot be read.'
  } finally {
    busy.value = false
  }
}
const { pause, resume } = useIntervalFn(
  async () => {
    const v = video.value
    if (!v || v.readyState < 2 || busy.value) return
    busy.value = true
    try {
      const canvas = document.createElement('canvas')
      canvas.width = v.videoWidth
      canvas.height = v.videoHeight
      const context = canvas.getContext('2d')!
      context.drawImage(v, 0, 0)
      const found = await readPicture(context.getImageData(0, 0, canvas.width, canvas.height))
      if (found) {
        take(found)
        stop()
      }
    } finally {
      busy.value = false
    }
  },
  300,
  { immediate: false },
)
async function start() {
  fault.value = ''
  try {
    stream.value = await navigator.mediaDevices.getUserMedia({
      video: { facingMode: 'environment', width: { ideal: 1280 } },
    })
    await nextTick()
    video.value!.srcObject = stream.value
    await video.value!.play()
    resume()
  } catch {
    fault.value = 'The camera cannot be used here: choose a picture, or type the label.'
  }
}
function stop() {
  pause()
  stream.value?.getTracks().forEach((t) => t.stop())
  stream.value = null
}
watch(open, (now) => {
  if (!now) return stop()
  label.value = null
  text.value = ''
  fault.value = ''
})
onBeforeUnmount(stop)
function use() {
  if (!label.value) return
  emit('read', label.value)
  open.value = false
}
</script>

<template>
  <ElDialog v-model="open" title="Read a label" width="640px" align-center>
    <div class="scan">
      <video v-if="stream" ref="video" class="camera" muted playsinline aria-label="Camera" />
      <div class="row wrap">
        <ElButton v-if="!stream" size="large" @click="start">Camera</ElButton
        ><ElButton v-else size="large" @click="stop">Stop</ElButton>
        <FileButton label="Picture" name="Picture of the label" accept="image/*" @chosen="fromPicture" />
        <span v-if="busy && !stream" class="muted">Reading …</span>
      </div>
      <form class="typed" @submit.prevent="take(text)">
        <label class="grow"
          >As printed under the symbol<ElInput
            v-model="text"
            size="large"
            maxlength="400"
            placeholder="(01)…(17)…(10)…"
            aria-label="Label as text"
        /></label>
        <ElButton native-type="submit" size="large" :disabled="!text.trim()">Read</ElButton>
      </form>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <dl v-if="label" class="says" aria-label="What the label says">
        <template v-for="e in label.elements" :key="e.ai"
          ><dt class="muted">{{ e.title }}</dt>
          <dd>{{ e.text }}</dd></template
        >
      </dl>
      <div class="actions">
        <ElButton size="large" @click="open = false">Back</ElButton
        ><ElButton size="large" type="primary" :disabled="!label" @click="use">Use it</ElButton>
      </div>
    </div>
  </ElDialog>
</template>

<style scoped>
.scan {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.camera {
  width: 100%;
  max-height: 320px;
  background: #000;
  border-radius: var(--corner);
}
.typed {
  display: flex;
  gap: 12px;
  align-items: flex-end;
}
.typed label {
  font-size: var(--s14);
  color: var(--muted);
}
.says {
  display: grid;
  grid-template-columns: 140px 1fr;
  gap: 4px 12px;
  margin: 0;
  padding: 12px 16px;
  border: 1px solid var(--hair);
  border-left: 4px solid var(--accepted);
}
dd {
  margin: 0;
  font-weight: 600;
  font-size: var(--s18);
}
</style>
