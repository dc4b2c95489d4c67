<script setup lang="ts">
import SignaturePad from 'signature_pad'

/** A drawn signature with the name and PIN, bound to the digest of the evidence. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  title: string
  name: string
  digest: string
  send: (body: { image: string; secret: string }) => Promise<void>
}>()
const canvas = ref<HTMLCanvasElement | null>(null)
const secret = ref('')
const { busy, words, want, clear, send: attempt } = useSending('This was not signed.')
let pad: SignaturePad | null = null
watch(open, async (now) => {
  if (!now) return
  secret.value = ''
  clear()
  await nextTick()
  await new Promise((done) => requestAnimationFrame(done))
  if (!canvas.value) return
  const ratio = Math.min(2, window.devicePixelRatio)
  canvas.value.width = canvas.value.offsetWidth * ratio
  canvas.value.height = canvas.value.offsetHeight * ratio
  canvas.value.getContext('2d')!.scale(ratio, ratio)
  pad?.off()
  pad = new SignaturePad(canvas.value, {
    penColor: '#161A1D',
    backgroundColor: '#ffffff',
    minWidth: 1,
    maxWidth: 2.6,
  })
})
async function sign() {
  if (!pad || pad.isEmpty()) return want('Draw your signature.')
  if (!secret.value) return want('Type your PIN.')
  const body = { image: pad.toDataURL('image/png'), secret: secret.value }
  await attempt(async () => {
    await props.send(body)
    open.value = false
  })
}
</script>

<template>
  <DialogForm
    v-model="open"
    :title="title"
    action="Sign"
    width="640px"
    :busy="busy"
    :fault="words"
    @send="sign"
  >
    <slot />
    <p class="who">{{ name }}</p>
    <div class="signature">
      <span class="muted small">Signature</span>
      <ElButton @click="pad?.clear()">Clear</ElButton>
      <canvas ref="canvas" class="pad" aria-label="Draw the signature here" />
    </div>
    <PinField v-model="secret" />
    <p class="muted small">
      Bound to the evidence by its digest <span class="mono">{{ digest.slice(0, 16) }}…</span>
    </p>
  </DialogForm>
</template>

<style scoped>
.signature {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: end;
  gap: 6px;
}
.pad {
  grid-column: 1 / -1;
  width: 100%;
  height: 180px;
  background: #fff;
  border: 1px solid var(--muted);
  border-radius: var(--corner);
  touch-action: none;
}
.who {
  font-size: var(--s18);
  font-weight: 600;
}
</style>
