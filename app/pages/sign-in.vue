<script setup lang="ts">
import { object, string } from 'yup'
import { signal } from '~/device/signal'
import { useDevice } from '~/stores/device'
import { useSession } from '~/stores/session'

definePageMeta({ layout: 'bare' })
const session = useSession()
const route = useRoute()
const form = reactive({ name: '', password: '' })
const problem = ref<{ field: string | null; message: string } | null>(null)
const busy = ref(false)
const device = useDevice()
/** without a signal, and with somebody's work on this device */
const byPin = computed(() => !signal.value && device.has)
const pin = ref('')
onMounted(() => void device.look())
const refusals = {
  wrong: 'This PIN opens nothing here. After five wrong ones it opens with a signal only.',
  locked: 'Five wrong PINs: this device opens with a signal only. What waits on it is safe.',
  none: 'Nobody has work along on this device.',
} as const
const target = () => {
  const { to } = route.query
  return typeof to === 'string' && to.startsWith('/') && !to.startsWith('//') ? to : '/'
}
async function unlock() {
  problem.value = null
  busy.value = true
  const outcome = await device.unlock(pin.value)
  busy.value = false
  pin.value = ''
  if (outcome !== 'open') return void (problem.value = { field: 'pin', message: refusals[outcome] })
  await session.load()
  await device.opened(session.base)
  await navigateTo(target())
}
const go = () => (byPin.value ? unlock() : enter())
const schema = object({
  name: string().trim().required('Type your sign-in name.'),
  password: string().required('Type your password.'),
})

async function enter() {
  problem.value = null
  try {
    await schema.validate(form)
  } catch (error) {
    const { path, message } = error as { path: string; message: string }
    problem.value = { field: path, message }
    return
  }
  busy.value = true
  try {
    await session.signIn(form.name.trim().toLowerCase(), form.password)
    await navigateTo(target())
  } catch (error) {
    problem.value =
      error instanceof ApiProblem
        ? { field: error.field, message: error.message }
        : { field: null, message: 'Signing in failed.' }
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <main class="gate">
    <svg class="line" viewBox="0 0 1280 260" preserveAspectRatio="xMidYMid slice" aria-hidden="true">
      <path
        d="M-10 190C160 178 240 120 380 128S560 196 700 170S900 76 1040 84S1200 118 1300 96"
        fill="none"
        stroke="var(--line)"
        stroke-width="3"
      />
      <g
        v-for="[x, y] in [
          [150, 176],
          [380, 128],
          [640, 183],
          [880, 107],
          [1100, 88],
        ]"
        :key="x"
        :transform="`translate(${x} ${y})`"
      >
        <rect
          x="-20"
          y="-9"
          width="40"
          height="18"
          fill="var(--paper)"
          stroke="var(--line)"
          stroke-width="3"
        />
      </g>
    </svg>
    <form class="sheet" novalidate @submit.prevent="go">
      <h1>Vet Line</h1>
      <p class="muted">Pipe, joints, embedment and pressure tests, checked against the issued procedure.</p>
      <template v-if="byPin">
        <p role="status"><strong>No signal.</strong> Open the work on this device with your PIN.</p>
        <label for="pin">PIN</label>
        <ElInput
          id="pin"
          v-model="pin"
          size="large"
          type="password"
          inputmode="numeric"
          autocomplete="off"
          :aria-invalid="problem?.field === 'pin'"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem.message }}</p>
        <ElButton type="primary" size="large" native-type="submit" :loading="busy" :disabled="!pin"
          >Open</ElButton
        >
      </template>
      <template v-else>
        <label for="name">Sign-in name</label>
        <ElInput
          id="name"
          v-model="form.name"
          size="large"
          autocomplete="username"
          autofocus
          :aria-invalid="problem?.field === 'name'"
        />
        <label for="password">Password</label>
        <ElInput
          id="password"
          v-model="form.password"
          size="large"
          type="password"
          autocomplete="current-password"
          :aria-invalid="problem?.field === 'password'"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem.message }}</p>
        <ElButton type="primary" size="large" native-type="submit" :loading="busy">Sign in</ElButton>
      </template>
      <p class="muted small">
        Local codes, the maker’s printed instructions and licensed practice come first. Vet Line reminds and
        records; it decides nothing about trench or lifting safety.
      </p>
    </form>
  </main>
</template>

<style scoped>
.gate {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-items: center;
  position: relative;
  padding: 16px;
}
.line {
  position: absolute;
  inset: auto 0 0;
  width: 100%;
  height: 40%;
  opacity: 0.55;
}
form {
  position: relative;
  width: min(420px, 100%);
  padding: 32px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h1 {
  font-size: var(--s40);
  line-height: 1.1;
}
label {
  margin-top: 10px;
  font-size: var(--s14);
  color: var(--muted);
}
.el-button {
  margin: 14px 0 8px;
}
.wrong {
  color: var(--rejected);
  font-weight: 600;
  margin-top: 6px;
}
</style>
