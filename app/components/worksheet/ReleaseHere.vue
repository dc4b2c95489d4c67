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
const fault = ref('')
const busy = ref(false)
watch(
  () => !signal.value && device.open,
  async (away) => (along.value = away ? await releasersHere(session.base) : null),
  { immediate: true },
)
const people = computed(() => along.value?.people.filter((p) => p.id !== session.person?.id) ?? [])
function begin() {
  Object.assign(given, { by: people.value.length === 1 ? people.value[0]!.id : '', pin: '', again: '' })
  given.reason = ''
  fault.value = ''
  shown.value = true
}
function wanting(): string {
  if (!given.by) return 'Say who releases.'
  if (!given.pin) return 'Type your PIN.'
  return given.pin === given.again ? '' : 'The two PINs differ: type them again.'
}
async function go() {
  fault.value = wanting()
  if (fault.value) return
  busy.value = true
  try {
    await props.send({ key: along.value!.key, by: given.by, pin: given.pin, reason: given.reason })
    shown.value = false
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not recorded.'
  } finally {
    busy.value = false
    Object.assign(given, { pin: '', again: '' })
  }
}
</script>

<template>
  <div v-if="people.length > 0" class="here">
    <ElButton size="large" :disabled="open > 0" @click="begin">An inspector releases here …</ElButton>
    <ElDialog v-model="shown" title="Release on this device" width="520px" align-center append-to-body>
      <form class="form" @submit.prevent="go">
        <p>
          <strong>{{ title }}</strong>
        </p>
        <p class="muted small">
          For the inspector who stands here, while there is no signal. The PIN lies on this device sealed; the
          server looks at it on arrival. If it is not right, or you may not release any more, the hold was
          passed without a release and a report says so.
        </p>
        <label
          >Who releases<ElSelect v-model="given.by" size="large" placeholder="Choose your name">
            <ElOption v-for="p in people" :key="p.id" :value="p.id" :label="p.name" /> </ElSelect
        ></label>
        <div class="pins">
          <label
            >Your PIN<ElInput
              v-model="given.pin"
              type="password"
              inputmode="numeric"
              autocomplete="off"
              maxlength="12"
              size="large"
          /></label>
          <label
            >Once more<ElInput
              v-model="given.again"
              type="password"
              inputmode="numeric"
              autocomplete="off"
              maxlength="12"
              size="large"
          /></label>
        </div>
        <label>What you saw, if it is worth a word<ElInput v-model="given.reason" maxlength="400" /></label>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <div class="actions">
          <ElButton size="large" @click="shown = false">Back</ElButton>
          <ElButton size="large" type="primary" native-type="submit" :loading="busy">Release</ElButton>
        </div>
      </form>
    </ElDialog>
  </div>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.form p {
  margin: 0;
}
.pins {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
