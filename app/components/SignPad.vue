<script setup lang="ts">
import SignaturePad from 'signature_pad'

/** A drawn signature with the name and PIN, bound to the digest of the evidence. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  name: string
  digest: string
  send: (body: { image: string; secret: string }) => Promise<void>
}>()
const canvas = ref<HTMLCanvasElement | null>(null)
const secret = ref('')
const fault = ref('')
const busy = ref(false)
let pad: SignaturePad | null = null
watch(open, async (now) => {
  if (!now) return
  secret.value = ''
  fault.value = ''
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
  if (!pad || pad.isEmpty()) return void (fault.value = 'Draw your signature.')
  if (!secret.value) return void (fault.value = 'Type your PIN.')
  busy.value = true
  fault.value = ''
  try {
    await props.send({ image: pad.toDataURL('image/png'), secret: secret.value })
    open.value = false
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not signed.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <ElDialog v-model="open" title="Sign the test" width="640px" align-center>
    <form class="form" @submit.prevent="sign">
      <slot />
      <p class="who">{{ name }}</p>
      <span class="muted small">Signature</span>
      <canvas ref="canvas" class="pad" aria-label="Draw the signature here" />
      <ElButton class="clear" @click="pad?.clear()">Clear</ElButton>
      <label
        >PIN or password<ElInput
          v-model="secret"
          type="password"
          inputmode="numeric"
          autocomplete="off"
          size="large"
      /></label>
      <p class="muted small">
        Bound to the evidence by its digest <span class="mono">{{ digest.slice(0, 16) }}…</span>
      </p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <div class="actions">
        <ElButton size="large" @click="open = false">Back</ElButton
        ><ElButton size="large" type="primary" native-type="submit" :loading="busy">Sign</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.pad {
  width: 100%;
  height: 180px;
  background: #fff;
  border: 1px solid var(--muted);
  border-radius: var(--corner);
  touch-action: none;
}
.clear {
  align-self: flex-end;
}
.who {
  margin: 0;
  font-size: var(--s18);
  font-weight: 600;
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
