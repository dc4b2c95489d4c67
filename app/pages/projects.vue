<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { SiteUnits } from '#core/quantity/site-units'
import { roleWords } from '~/words'
import { useSession } from '~/stores/session'

/** The projects that a person is on; who keeps the installation begins new ones. */
definePageMeta({ layout: 'bare' })
const session = useSession()
const beginning = ref(session.projects.length === 0 && session.keeper)
const form = reactive({
  name: '',
  key: '',
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  units: 'metric' as SiteUnits,
  rule: 'guarded' as 'guarded' | 'simple',
  codes: '',
  title: '',
})
const keyOf = (name: string) =>
  name
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 38)
const keyTyped = ref(false)
watch(
  () => form.name,
  (name) => keyTyped.value || (form.key = keyOf(name)),
)
const { busy, at, besides, send } = useSending()
const fields = ['name', 'key', 'zone']

async function open(key: string) {
  await session.chooseProject(key)
  await navigateTo('/')
}
async function begin() {
  if (!(await send(() => api('projects', { body: { id: uuidv7(), ...form } })))) return
  await session.load()
  await session.chooseProject(form.key)
  await navigateTo('/setup/check')
}
async function leave() {
  await session.signOut()
  await navigateTo('/sign-in')
}
</script>

<template>
  <main class="projects">
    <header class="row">
      <h1 class="grow">Projects</h1>
      <span class="muted">{{ session.person?.name }}</span>
      <ElButton size="large" @click="leave">Sign out</ElButton>
    </header>
    <ul v-if="session.projects.length > 0" class="list sheet">
      <li v-for="p in session.projects" :key="p.key">
        <button type="button" @click="open(p.key)">
          <strong>{{ p.name }}</strong>
          <span class="muted">{{ p.roles.map((r) => roleWords[r]).join(', ') }}</span>
        </button>
      </li>
    </ul>
    <Notice
      v-else-if="!session.keeper"
      empty="You are on no project yet"
      hint="An administrator puts you on one; come back then."
    />
    <ElButton v-if="session.keeper && !beginning" type="primary" size="large" @click="beginning = true"
      >Begin a project</ElButton
    >
    <PlanForm v-if="beginning" @submit="begin">
      <h2 class="wide">A new project</h2>
      <FormField label="Name" :fault="at('name')" class="wide"
        ><ElInput v-model="form.name" size="large" maxlength="160"
      /></FormField>
      <FormField label="Key, for addresses and files" :fault="at('key')"
        ><ElInput v-model="form.key" size="large" maxlength="40" @input="keyTyped = true"
      /></FormField>
      <ZoneAndUnits v-model:zone="form.zone" v-model:units="form.units" :fault="at('zone')" />
      <FormField label="How close is close enough" group class="wide">
        <ElRadioGroup v-model="form.rule" aria-label="How close is close enough">
          <ElRadio value="guarded"
            >Guarded: within an instrument’s uncertainty of a limit is too close</ElRadio
          >
          <ElRadio value="simple">Simple: the limit alone decides</ElRadio>
        </ElRadioGroup>
      </FormField>
      <FormField label="Local codes that apply (where there are some)" class="wide"
        ><ElInput v-model="form.codes" type="textarea" :rows="2" maxlength="2000"
      /></FormField>
      <p v-if="besides(fields)" class="fault wide" role="alert">{{ besides(fields) }}</p>
      <template #acts>
        <ElButton v-if="session.projects.length" size="large" @click="beginning = false">Back</ElButton>
        <ElButton
          type="primary"
          size="large"
          native-type="submit"
          :loading="busy"
          :disabled="!form.name.trim()"
          >Begin the project</ElButton
        >
      </template>
    </PlanForm>
  </main>
</template>

<style scoped>
.projects {
  max-width: 760px;
  margin: 0 auto;
  padding: 32px 16px;
  display: flex;
  flex-direction: column;
  gap: 20px;
  align-items: stretch;
}
.projects > .el-button {
  align-self: flex-start;
}
/* What is chosen may be a whole sentence, on a phone on several lines. */
.projects :deep(.el-radio) {
  height: auto;
  min-height: 32px;
  white-space: normal;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.list button {
  width: 100%;
  min-height: 72px;
  padding: 12px 20px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  justify-content: center;
  border: 0;
  border-bottom: 1px solid var(--hair);
  background: none;
  color: inherit;
  font-size: var(--s18);
  text-align: left;
  cursor: pointer;
}
.el-radio-group {
  flex-direction: column;
  align-items: flex-start;
}
</style>
