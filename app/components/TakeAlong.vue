<script setup lang="ts">
import { useDevice } from '~/stores/device'
import { useSession } from '~/stores/session'

/** Takes the work of these days onto the device, sealed under the PIN, and shows what it has. */
const open = defineModel<boolean>({ required: true })
const device = useDevice()
const session = useSession()
const times = useTimes()
const pin = ref('')
const { busy, words, send } = useSending()
watch(open, () => (pin.value = ''))
const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`
async function take() {
  await send(async () => {
    if (device.ended) return device.takeAgain(pin.value)
    await device.take(session.base, pin.value, session.person!.id)
    // Names and lists that the views ask for at once.
    await session.load()
  })
}
</script>

<template>
  <ElDialog
    v-if="device.open && !device.ended"
    v-model="open"
    title="Work without a signal"
    width="560px"
    align-center
  >
    <p v-if="device.taking" role="status">
      Taking along: {{ device.taking.done }} of {{ device.taking.total }} sheets …
    </p>
    <p v-else-if="device.slice" role="status">
      This device has your work as of <strong>{{ times.moment(device.slice.at) }}</strong>,
      {{ size(device.slice.bytes) }}. It follows by itself while there is a signal.
    </p>
    <p class="muted more">
      Without a signal, sign in here with your PIN. What you record lies on the device before the screen says
      so, and goes out when there is a signal again. New lots, certificates and sign-offs on your own device
      need one; an inspector who stands beside you releases a hold on this one.
    </p>
    <div class="actions">
      <ElButton size="large" @click="open = false">Back</ElButton>
      <ElButton type="primary" size="large" :loading="device.taking !== null" @click="device.follow()"
        >Bring it up to date</ElButton
      >
    </div>
  </ElDialog>
  <DialogForm
    v-else
    v-model="open"
    title="Work without a signal"
    action="Take the work along"
    width="560px"
    :busy="busy"
    :fault="words"
    :ready="pin !== ''"
    @send="take"
  >
    <p v-if="device.ended" role="status">
      An administrator has ended this device: it has let go of the work that it had along. What you recorded
      and what has not gone out is still here.
    </p>
    <p>
      The joints and reaches that you work at in these days, with their procedures, instruments and lots, are
      kept on this device: sealed, and without a signal opened by your PIN only.
    </p>
    <PinField v-model="pin" label="Your PIN" />
  </DialogForm>
</template>

<style scoped>
.actions {
  margin-top: 14px;
}
.more {
  margin-top: 12px;
}
</style>
