<script setup lang="ts">
import type { RegisteredInstrument } from '#core/checks/instruments'
import type { Rejudged } from './RuleChoice.vue'
import { useSession } from '~/stores/session'

/** A calibration of an instrument; what was read with it is judged anew. */
const instrument = defineModel<RegisteredInstrument | null>({ required: true })
const emit = defineEmits<{ calibrated: [Rejudged] }>()
const session = useSession()
const { busy, fault, at, besides, send } = useSending()
const open = computed({
  get: () => instrument.value !== null,
  set: (to) => void (to || (instrument.value = null)),
})
const blank = () => ({ from: '', until: '', certificate: '' })
const calibration = reactive(blank())
watch(instrument, () => {
  Object.assign(calibration, blank())
  fault.value = null
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
  <ElDialog v-model="open" :title="`${instrument?.name ?? ''}: calibrated`" width="520px" align-center>
    <form class="form" @submit.prevent="enter">
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
      <p v-if="besides(['from', 'until', 'certificate'])" class="fault wide" role="alert">
        {{ besides(['from', 'until', 'certificate']) }}
      </p>
      <div class="actions wide">
        <ElButton size="large" @click="instrument = null">Back</ElButton
        ><ElButton size="large" type="primary" native-type="submit" :loading="busy">Enter it</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 720px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
