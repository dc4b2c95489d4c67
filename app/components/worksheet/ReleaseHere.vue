<script setup lang="ts">
import { releasersHere } from '~/device/release-here'
import { signal } from '~/device/signal'
import { useDevice } from '~/stores/device'
import { useSession } from '~/stores/session'
import type { Releasers } from '../../../server/services/release-here'

/**
 * An inspector beside the crew releases on the crew's device while there is no signal. The PIN is typed
 * twice, as nothing here can tell whether it is right: it is sealed, and the server looks on arrival.
 */
const props = defineProps<{
  title: string
  /** steps before it that are not done */
  open: number
  send: (given: { key: string; by: string; pin: string; reason: string }) => Promise<void>
}>()
const session = useSession()
const device = useDevice()
const shown = ref(false)
const along = ref<Releasers | null>(null)
const given = reactive({ by: '', pin: '', again: '', reason: '' })
const { busy, words, want, clear, send: attempt } = useSending('This was not recorded.')
watch(
  () => !signal.value && device.open,
  async (away) => (along.value = away ? await releasersHere(session.base) : null),
  { immediate: true },
)
const people = computed(() => along.value?.people.filter((p) => p.id !== session.person?.id) ?? [])
function begin() {
  Object.assign(given, { by: people.value.length === 1 ? people.value[0]!.id : '', pin: '', again: '' })
  given.reason = ''
  clear()
  shown.value = true
}
function wanting(): string {
  if (!given.by) return 'Say who releases.'
  if (!given.pin) return 'Type your PIN.'
  return given.pin === given.again ? '' : 'The two PINs differ: type them again.'
}
async function go() {
  const wants = wanting()
  if (wants) return want(wants)
  await attempt(async () => {
    await props.send({ key: along.value!.key, by: given.by, pin: given.pin, reason: given.reason })
    shown.value = false
  })
  Object.assign(given, { pin: '', again: '' })
}
</script>

<template>
  <div v-if="people.length > 0" class="here">
    <ElButton size="large" :disabled="open > 0" @click="begin">An inspector releases here …</ElButton>
    <DialogForm
      v-model="shown"
      title="Release on this device"
      action="Release"
      columns
      :busy="busy"
      :fault="words"
      @send="go"
    >
      <p class="wide">
        <strong>{{ title }}</strong>
      </p>
      <p class="muted small wide">
        For the inspector who stands here, while there is no signal. The PIN lies on this device sealed; the
        server looks at it on arrival. If it is not right, or you may not release any more, the hold was
        passed without a release and a report says so.
      </p>
      <FormField label="Who releases" group class="wide"
        ><ElSelect v-model="given.by" size="large" placeholder="Choose your name" aria-label="Who releases">
          <ElOption v-for="p in people" :key="p.id" :value="p.id" :label="p.name" /></ElSelect
      ></FormField>
      <PinField v-model="given.pin" label="Your PIN" />
      <PinField v-model="given.again" label="Once more" />
      <FormField label="What you saw, if it is worth a word" class="wide"
        ><ElInput v-model="given.reason" size="large" maxlength="400"
      /></FormField>
    </DialogForm>
  </div>
</template>
