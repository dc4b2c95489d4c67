<script setup lang="ts">
import { useSession } from '~/stores/session'

/** Where a one-time link leads: the first administrator, or a person who chooses password and PIN. */
definePageMeta({ layout: 'bare' })
interface LinkReply {
  kind: 'found' | 'join' | 'reset'
  installation: string | null
  person: { name: string; signIn: string } | null
}
const session = useSession()
const token = ref('')
const {
  data: link,
  problem,
  load,
} = useLoad(() => api<LinkReply>('links/look', { body: { token: token.value } }))
onMounted(() => {
  // Behind the # the token is never sent with the address, nor written into a log.
  token.value = location.hash.slice(1)
  void load()
})
const form = reactive({ installation: '', name: '', signIn: '', password: '', again: '', pin: '' })
const { busy, at, besides, send } = useSending()
const differs = computed(() => form.again !== '' && form.again !== form.password)
const fields = ['installation', 'name', 'signIn', 'password', 'pin']

async function go() {
  const { installation, name, signIn, password, pin } = form
  const secrets = { token: token.value, password, pin }
  const done = await send(() =>
    link.value!.kind === 'found'
      ? api('links/found', { body: { ...secrets, installation, name, signIn } })
      : api('links/choose', { body: secrets }),
  )
  if (!done) return
  history.replaceState(null, '', '/start')
  await session.load()
  await navigateTo(session.projectKey ? '/' : '/projects')
}
</script>

<template>
  <main class="gate">
    <Notice v-if="problem" :problem="problem" @again="load" />
    <form v-else-if="link" class="sheet" novalidate @submit.prevent="go">
      <h1 v-if="link.kind === 'found'">A new Vet Line</h1>
      <h1 v-else>{{ link.kind === 'join' ? 'Welcome' : 'Choose again' }}, {{ link.person!.name }}</h1>
      <p class="muted">
        <template v-if="link.kind === 'found'">
          You become its first administrator: you begin projects and let people in.
        </template>
        <template v-else>
          {{ link.installation }}. Your sign-in name is
          <strong class="mono">{{ link.person!.signIn }}</strong>.
        </template>
      </p>
      <template v-if="link.kind === 'found'">
        <FormField label="Name of this installation" :fault="at('installation')"
          ><ElInput
            v-model="form.installation"
            size="large"
            maxlength="120"
            placeholder="The firm, or the office"
        /></FormField>
        <FormField label="Your name" :fault="at('name')"
          ><ElInput v-model="form.name" size="large" maxlength="120" autocomplete="name"
        /></FormField>
        <FormField label="Sign-in name" :fault="at('signIn')"
          ><ElInput
            v-model="form.signIn"
            size="large"
            maxlength="40"
            autocapitalize="none"
            autocomplete="username"
        /></FormField>
      </template>
      <FormField label="Password, at least ten letters" :fault="at('password')"
        ><ElInput
          v-model="form.password"
          type="password"
          show-password
          size="large"
          maxlength="200"
          autocomplete="new-password"
      /></FormField>
      <FormField label="The password once more" :fault="differs ? 'These two differ.' : ''"
        ><ElInput
          v-model="form.again"
          type="password"
          size="large"
          maxlength="200"
          autocomplete="new-password"
      /></FormField>
      <FormField label="PIN for sign-offs, four to eight digits" :fault="at('pin')"
        ><ElInput
          v-model="form.pin"
          type="password"
          inputmode="numeric"
          size="large"
          maxlength="8"
          autocomplete="off"
      /></FormField>
      <p v-if="besides(fields)" class="fault" role="alert">{{ besides(fields) }}</p>
      <ElButton
        type="primary"
        size="large"
        native-type="submit"
        :loading="busy"
        :disabled="!form.password || form.again !== form.password || !form.pin"
        >{{ link.kind === 'found' ? 'Begin' : 'Come in' }}</ElButton
      >
    </form>
    <Notice v-else loading />
  </main>
</template>

<style scoped>
.gate {
  min-height: 100dvh;
  display: grid;
  place-items: center;
  padding: 24px 16px;
}
form {
  width: min(480px, 100%);
  padding: 28px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
form p {
  margin: 0;
}
</style>
