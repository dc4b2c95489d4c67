<script setup lang="ts">
import { writeLabel, type LabelContent } from '#core/delivery/gs1'
import { Problem } from '#core/problem'
import { drawSymbol } from '~/composables/useLabels'

/** A label for a lot or an item, on the screen, as a picture, or printed. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ content: LabelContent; title: string }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const fault = ref('')
/** the symbol stands in the canvas; before that there is nothing to print or save */
const drawn = ref(false)
const text = computed(() => {
  try {
    return writeLabel(props.content)
  } catch (error) {
    if (error instanceof Problem) return ''
    throw error
  }
})
async function draw() {
  fault.value = ''
  drawn.value = false
  if (!text.value) return void (fault.value = 'What stands on it does not fit on a label.')
  await nextTick()
  try {
    await drawSymbol(canvas.value!, text.value)
    drawn.value = true
  } catch {
    fault.value = 'The label could not be drawn.'
  }
}
/** The whole label – symbol, name, text – as one picture. */
function picture(): Promise<Blob> {
  const symbol = canvas.value!
  const sheet = document.createElement('canvas')
  sheet.width = symbol.width + 480
  sheet.height = Math.max(symbol.height, 150)
  const c = sheet.getContext('2d')!
  c.fillStyle = '#fff'
  c.fillRect(0, 0, sheet.width, sheet.height)
  c.drawImage(symbol, 0, 0)
  c.fillStyle = '#000'
  c.font = '600 24px "Atkinson Hyperlegible Next Variable"'
  c.fillText(props.title.slice(0, 34), symbol.width + 12, 40)
  c.font = '20px "Atkinson Hyperlegible Mono Variable"'
  text.value.split(/(?=\(\d{2,4}\))/).forEach((part, i) => c.fillText(part, symbol.width + 12, 74 + i * 26))
  return new Promise((resolve, reject) =>
    sheet.toBlob((b) => (b ? resolve(b) : reject(new Error('no picture'))), 'image/png'),
  )
}
async function save() {
  const a = document.createElement('a')
  a.href = URL.createObjectURL(await picture())
  a.download = `label-${props.content.lot ?? 'item'}.png`
  a.click()
  setTimeout(() => URL.revokeObjectURL(a.href), 10_000)
}
const print = () => window.print()
</script>

<template>
  <ElDialog v-model="open" title="Label" width="600px" align-center class="label-dialog" @opened="draw">
    <div class="label" :aria-label="text">
      <canvas ref="canvas" role="img" aria-label="Symbol of the label" />
      <div>
        <strong>{{ title }}</strong><span
          v-for="part in text.split(/(?=\(\d{2,4}\))/)"
          :key="part"
          class="mono"
          >{{ part }}</span
        >
      </div>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div class="actions">
      <ElButton size="large" @click="open = false">Back</ElButton
      ><ElButton size="large" :disabled="!drawn" @click="print">Print</ElButton
      ><ElButton size="large" type="primary" :disabled="!drawn" @click="save">Save as picture</ElButton>
    </div>
  </ElDialog>
</template>

<style scoped>
.label {
  display: flex;
  gap: 20px;
  align-items: center;
  padding: 12px;
  background: #fff;
  color: #000;
  border: 1px solid var(--hair);
}
canvas {
  width: 168px;
  height: 168px;
  image-rendering: pixelated;
}
.label div {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 12px;
  margin-top: 16px;
}
</style>

<style>
@media print {
  body:has(.label-dialog) .frame,
  .label-dialog .actions,
  .label-dialog header {
    display: none;
  }
}
</style>
