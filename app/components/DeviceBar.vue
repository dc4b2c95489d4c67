<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { signal } from '~/device/signal'
import { drain } from '~/device/sender'
import { isTyping, newVersion, takeNewVersion } from '~/device/worker'
import { useDevice, type Refused } from '~/stores/device'
import { useSession } from '~/stores/session'

/** What waits on this device, since when, and what the server refused; nothing where all has gone out. */
const device = useDevice()
const session = useSession()
const route = useRoute()
const times = useTimes()
/** A new version asks for nothing while something is typed and not recorded. */
const typing = ref(false)
useIntervalFn(() => (typing.value = newVersion.value !== null && isTyping()), 500)
const off = computed(() => !signal.value)
const many = (n: number) => (n === 1 ? '1 entry waits' : `${n} entries wait`)
const said = computed(() => {
  if (off.value && !device.open)
    return 'No signal. This device has no work along: nothing can be recorded until there is one.'
  const photos = device.photos > 0 ? ` with ${device.photos} ${device.photos === 1 ? 'photo' : 'photos'}` : ''
  const waits =
    device.since === null ? '' : `${many(device.waiting)}${photos} since ${times.moment(device.since)}.`
  if (off.value) return `No signal. What you record stays on this device and goes out by itself. ${waits}`
  if (device.signedOut) return waits || 'You are signed out here.'
  return waits && `Sending: ${waits}`
})
const pageOf = ({ subject }: Refused) => {
  const [, , kind, id] = subject.split('/')
  // A photo waits at its project, not at what it is of.
  if (!id) return '/'
  return kind === 'reaches' ? `/embedment/${id}` : `/joints/${id}`
}

/** The session ended while there was no signal: the same person signs in, and what waits goes out. */
async function signIn() {
  session.$reset()
  session.known = true
  await navigateTo({ path: '/sign-in', query: { to: route.fullPath } })
}

// The browser says when a network is there; whether it reaches the server is seen by sending.
function woken() {
  if (device.open) void drain().then(() => device.follow())
}
onMounted(() => window.addEventListener('online', woken))
onBeforeUnmount(() => window.removeEventListener('online', woken))
watch(feedOpen, (open) => open && woken())
</script>

<template>
  <div class="bar">
    <p v-if="said" class="said" :class="{ off }" role="status">
      <span class="grow">{{ said }}</span>
      <ElButton v-if="device.signedOut && !off" size="large" type="primary" @click="signIn"
        >Sign in to send it</ElButton
      >
    </p>
    <p v-if="newVersion && !typing" class="said" role="status">
      <span class="grow"
        >A new version of Vet Line is on this device. What is recorded and what waits stays.</span
      >
      <ElButton size="large" type="primary" @click="takeNewVersion(newVersion)">Use it now</ElButton>
    </p>
    <p v-for="r in device.refused" :key="r.place" class="said refused" role="alert">
      <span class="grow">Recorded {{ times.moment(r.at) }}, refused: {{ r.message }}</span>
      <NuxtLink :to="pageOf(r)">Look</NuxtLink>
      <ElButton size="large" @click="device.sendAgain(r.place)">Send again</ElButton>
      <ElButton size="large" @click="device.letGo(r.place)">Let it go</ElButton>
    </p>
  </div>
</template>

<style scoped>
.bar {
  grid-area: bar;
  min-width: 0;
}
.said {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  margin: 0;
  padding: 8px 16px;
  border-bottom: 1px solid var(--hair);
  background: var(--card);
  font-weight: 600;
}
.said.off {
  border-left: 6px solid var(--held);
}
.said.refused {
  border-left: 6px solid var(--rejected);
}
.said a {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  color: var(--line);
}
</style>
