<script setup lang="ts">
import type { RegisteredInstrument } from '#core/checks/instruments'
import type { Rejudged } from './RuleChoice.vue'
import { useSession } from '~/stores/session'

/** A calibration of an instrument; what was read with it is judged anew. */
const instrument = defineModel<RegisteredInstrument | null>({ required: true })
const emit = defineEmits<{ calibrated: [Rejudged] }>()
const session = useSession()
const { busy, at, besides, send, clear } = useSending()
const open = computed({
  get: () => instrument.value !== null,
  set: (to) => void (to || (instrument.value = null)),
})
const blank = () => ({ from: '', until: '', certificate: '' })
const calibration = reactive(blank())
watch(instrument, () => {
  Object.assign(calibration, blank())
  clear()
})
async function enter() {
  const path = `${session.base}/instruments/${instrument.value!.id}/calibrations`
  const reply = await send(() => api<Rejudged>(path, { body: { ...calibration } }))
  if (!reply) return
  instrument.value = null
  emit('calibrated', reply)
}
</script>

<template>
  <DialogForm
    v-model="open"
    :title="`${instrument?.name ?? ''}: calibrated`"
    action="Enter it"
    columns
    :busy="busy"
    :fault="besides(['from', 'until', 'certificate'])"
    @send="enter"
  >
    <div>
      <DayField v-model="calibration.from" label="From" />
      <span class="fault">{{ at('from') }}</span>
    </div>
    <div>
      <DayField v-model="calibration.until" label="Good until" />
      <span class="fault">{{ at('until') }}</span>
    </div>
    <FormField class="wide" label="Certificate" :fault="at('certificate')"
      ><ElInput v-model="calibration.certificate" size="large" maxlength="80"
    /></FormField>
    <p class="muted small wide">Readings taken while no calibration ran still do not count.</p>
  </DialogForm>
</template>
