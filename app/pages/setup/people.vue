<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { peopleAndCrews } from '../../../server/services/people'
import type { Role } from '#core/access'
import { roleWords } from '~/words'
import { useSession } from '~/stores/session'

/** Who is on the project, in which roles, and the crews that leads lead. */
type Reply = Awaited<ReturnType<typeof peopleAndCrews>>
type Person = Reply['people'][number]
const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<Reply>(`${session.base}/people`))
onMounted(load)
const crewName = (id: string | null) => data.value?.crews.find((c) => c.id === id)?.name ?? ''
const rolesOf = (p: Person) =>
  p.roles.map((r) => (r.crew ? `${roleWords[r.role]}, ${crewName(r.crew)}` : roleWords[r.role])).join('; ')
const standing = (p: Person) =>
  !p.active
    ? 'let in no more'
    : p.joined
      ? ''
      : p.linkUntil
        ? `has a link until ${times.moment(p.linkUntil)}`
        : 'has no link'

/** shown once, after a person was added or asked for a new link */
const link = ref<{ token: string; name: string } | null>(null)

const adding = ref(false)
const editing = ref<Person | null>(null)
const form = reactive({ name: '', signIn: '', roles: [] as Role[], crew: '', reason: '' })
const { busy, at, besides, send } = useSending()
const fields = ['name', 'signIn', 'roles', 'crew', 'reason']
const open = computed({
  get: () => adding.value || editing.value !== null,
  set: (on) => {
    if (!on) [adding.value, editing.value] = [false, null]
  },
})
const ready = computed(() =>
  editing.value
    ? form.reason.trim() !== ''
    : form.roles.length > 0 && form.name.trim() !== '' && form.signIn.trim() !== '',
)
function begin(person: Person | null) {
  Object.assign(form, {
    name: person?.name ?? '',
    signIn: person?.signIn ?? '',
    roles: person?.roles.map((r) => r.role) ?? [],
    crew: person?.roles.find((r) => r.crew)?.crew ?? '',
    reason: '',
  })
  editing.value = person
  adding.value = person === null
}
async function save() {
  const roles = form.roles.map((role) => ({ role, crew: role === 'crew-lead' ? form.crew || null : null }))
  const person = editing.value
  const done = await send(() =>
    person
      ? api<{ token?: string | null }>(`${session.base}/people/${person.id}/roles`, {
          body: { roles, reason: form.reason },
        })
      : api<{ token?: string | null }>(`${session.base}/people`, {
          body: { id: uuidv7(), name: form.name, signIn: form.signIn, roles },
        }),
  )
  if (!done) return
  if (done.token) link.value = { token: done.token, name: form.name }
  open.value = false
  await load()
}
async function renew(person: Person) {
  const done = await send(() =>
    api<{ token: string }>(`${session.base}/people/${person.id}/link`, { body: {} }),
  )
  if (done) link.value = { token: done.token, name: person.name }
  await load()
}

const shutting = ref<Person | null>(null)
const shutOpen = ref(false)
function shut(person: Person) {
  shutting.value = person
  shutOpen.value = true
}
async function setActive(reason: string) {
  const { id, active } = shutting.value!
  await api(`${session.base}/people/${id}/active`, { body: { active: !active, reason } })
  await load()
}

const renaming = ref<{ id: string; name: string } | null>(null)
const renameOpen = ref(false)
const newName = ref('')
function rename(crew: { id: string; name: string }) {
  ;[renaming.value, newName.value, renameOpen.value] = [crew, crew.name, true]
}
async function renameTo(reason: string) {
  await api(`${session.base}/crews/${renaming.value!.id}`, { body: { name: newName.value, reason } })
  await Promise.all([load(), session.loadProject()])
}

const crewForm = reactive({ name: '' })
const naming = useSending()
async function addCrew() {
  const body = { id: uuidv7(), name: crewForm.name }
  if (!(await naming.send(() => api(`${session.base}/crews`, { body })))) return
  crewForm.name = ''
  await Promise.all([load(), session.loadProject()])
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="People">
    <SetupTabs />
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <OneTimeLink v-if="link" :token="link.token" :name="link.name" class="sheet shown" />
      <section aria-label="Crews">
        <h2>Crews</h2>
        <p v-if="data.crews.length === 0" class="muted">
          A crew makes joints, and its lead records them. Begin with the crews: leads are given one.
        </p>
        <p v-else class="crews">
          <button v-for="c in data.crews" :key="c.id" type="button" @click="rename(c)">
            {{ c.name }} <span class="muted small">rename</span>
          </button>
        </p>
        <form class="row" @submit.prevent="addCrew">
          <ElInput
            v-model="crewForm.name"
            size="large"
            maxlength="80"
            aria-label="Name of the crew"
            placeholder="Crew East"
            class="short"
          />
          <ElButton
            size="large"
            native-type="submit"
            :loading="naming.busy.value"
            :disabled="!crewForm.name.trim()"
            >Add the crew</ElButton
          >
          <span class="fault" role="alert">{{ naming.fault.value?.message }}</span>
        </form>
      </section>
      <section aria-label="People">
        <div class="row">
          <h2 class="grow">People</h2>
          <ElButton type="primary" size="large" @click="begin(null)">Add a person</ElButton>
        </div>
        <p v-if="besides([]) && !open" class="fault" role="alert">{{ besides([]) }}</p>
        <ul class="list sheet">
          <li v-for="p in data.people" :key="p.id" :class="{ out: !p.active }">
            <span class="grow">
              <strong>{{ p.name }}</strong> <span class="muted mono">{{ p.signIn }}</span><br /><span>{{
                rolesOf(p)
              }}</span>
              <span v-if="standing(p)" class="muted"> · {{ standing(p) }}</span>
            </span>
            <span class="acts">
              <ElButton size="large" @click="begin(p)">Roles</ElButton>
              <ElButton v-if="p.active" size="large" :disabled="busy" @click="renew(p)">{{
                p.joined ? 'Locked out?' : 'New link'
              }}</ElButton>
              <ElButton v-if="p.id !== session.person?.id" size="large" @click="shut(p)">{{
                p.active ? 'Let in no more' : 'Let in again'
              }}</ElButton>
            </span>
          </li>
        </ul>
      </section>
      <DevicesAlong />
    </template>
    <DialogForm
      v-model="open"
      :title="editing ? `Roles of ${editing.name}` : 'Add a person'"
      :action="editing ? 'Change the roles' : 'Add, and show the link'"
      width="560px"
      :busy="busy"
      :fault="besides(fields)"
      :ready="ready"
      @send="save"
    >
      <template v-if="!editing">
        <FormField label="Name" :fault="at('name')"
          ><ElInput v-model="form.name" size="large" maxlength="120"
        /></FormField>
        <FormField label="Sign-in name" :fault="at('signIn')"
          ><ElInput v-model="form.signIn" size="large" maxlength="40" autocapitalize="none"
        /></FormField>
      </template>
      <FormField label="Roles" group :fault="at('roles')">
        <ElCheckboxGroup v-model="form.roles" aria-label="Roles">
          <ElCheckbox v-for="(word, role) in roleWords" :key="role" :value="role">{{ word }}</ElCheckbox>
        </ElCheckboxGroup>
      </FormField>
      <FormField v-if="form.roles.includes('crew-lead')" label="Leads" group :fault="at('crew')">
        <ElSelect v-model="form.crew" size="large" aria-label="Crew" placeholder="Choose the crew"
          ><ElOption v-for="c in data?.crews" :key="c.id" :value="c.id" :label="c.name"
        /></ElSelect>
      </FormField>
      <FormField v-if="editing" label="Why" :fault="at('reason')"
        ><ElInput v-model="form.reason" size="large" maxlength="400"
      /></FormField>
    </DialogForm>
    <AskDialog
      v-model="renameOpen"
      :title="renaming ? `${renaming.name}: another name` : ''"
      label="Why"
      action="Rename the crew"
      :send="renameTo"
    >
      <FormField label="New name"
        ><ElInput v-model="newName" size="large" maxlength="80" aria-label="New name"
      /></FormField>
      <p class="muted">What the crew recorded under its old name stays its own.</p>
    </AskDialog>
    <AskDialog
      v-model="shutOpen"
      :title="shutting ? `${shutting.name}: ${shutting.active ? 'let in no more' : 'let in again'}` : ''"
      label="Why"
      :action="shutting?.active ? 'Let in no more' : 'Let in again'"
      :send="setActive"
    >
      <p v-if="shutting?.active" class="muted">
        {{ shutting.name }} is signed out everywhere at once. What was recorded stays.
      </p>
    </AskDialog>
  </div>
</template>

<style scoped>
section {
  margin-bottom: 28px;
}
h2 {
  margin-bottom: 8px;
}
.shown {
  padding: 20px;
  margin-bottom: 24px;
}
.crews {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 12px;
}
.crews button {
  min-height: 48px;
  padding: 8px 14px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.short {
  max-width: 280px;
}
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  align-items: center;
  min-height: 72px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--hair);
}
li .grow {
  flex: 1 1 260px;
}
li.out strong {
  text-decoration: line-through;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.acts .el-button {
  margin: 0;
}
</style>
