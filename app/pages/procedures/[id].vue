<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import { loadProcedure, writeProcedure } from '#core/procedure/load'
import type { ProcedureListed, ProcedureOpened } from '~/composables/types'
import { useSession } from '~/stores/session'
import { entryWords, procedureStateWords } from '~/words'

definePageMeta({ key: (route) => route.params.id as string })
const session = useSession()
const times = useTimes()
const route = useRoute()
const id = route.params.id as string
const { data, problem, loading, load } = useLoad(() =>
  api<ProcedureOpened>(`${session.base}/procedures/${id}`),
)
const { data: all, load: loadAll } = useLoad(() => api<ProcedureListed[]>(`${session.base}/procedures`))
const refresh = () => Promise.all([load(), loadAll()])
onMounted(refresh)
const compiled = computed(() => (data.value ? loadProcedure(data.value.source) : null))
const procedure = computed(() => compiled.value?.procedure ?? null)
const revisions = computed(() => (all.value ?? []).filter((p) => p.key === data.value?.key))
const listed = computed(() => revisions.value.find((r) => r.id === id) ?? null)
const engineer = computed(() => session.can('write-procedure'))

const views = computed(() => [
  { key: 'read', title: 'Read' },
  { key: 'dry-run', title: 'Dry run' },
  { key: 'compare', title: 'Compare' },
  ...(engineer.value ? [{ key: 'edit', title: data.value?.state === 'draft' ? 'Edit' : 'Text' }] : []),
  ...(session.can('weigh-procedure') ? [{ key: 'impact', title: 'What it changes' }] : []),
  { key: 'record', title: 'Record' },
])
const view = computed({
  get: () => String(route.query.view ?? 'read'),
  set: (v) => void navigateTo({ query: { view: v } }, { replace: true }),
})
const print = () => window.print()
const people = computed(() => Object.fromEntries((session.overview?.people ?? []).map((p) => [p.id, p.name])))

const signing = ref<'review' | 'return' | 'issue' | null>(null)
const signOpen = computed({
  get: () => signing.value !== null,
  set: (open) => void (open || (signing.value = null)),
})
const signWords = {
  review: ['Review', 'Accept this revision'],
  return: ['Send back', 'Send it back'],
  issue: ['Issue', 'Issue this revision'],
} as const
async function sign(secret: string, reason: string) {
  const body =
    signing.value === 'issue' ? { secret } : { accepted: signing.value === 'review', reason, secret }
  await api(`${session.base}/procedures/${id}/${signing.value === 'issue' ? 'issue' : 'review'}`, { body })
  await refresh()
}
const fault = ref('')
async function attempt(act: () => Promise<void>) {
  fault.value = ''
  try {
    await act()
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error.message
  }
}
const submit = () =>
  attempt(async () => {
    await api(`${session.base}/procedures/${id}/submit`, { body: {} })
    await refresh()
  })
/** The next free letter after this revision's. */
const nextLetter = computed(() => {
  const taken = new Set(revisions.value.map((r) => r.revision))
  for (const letter of 'ABCDEFGHIJKLMNOPQRSTUVWXYZ')
    if (!taken.has(letter) && letter > (data.value?.revision ?? '')) return letter
  return `${data.value?.revision ?? ''}-2`
})
const draft = () =>
  attempt(async () => {
    const source = writeProcedure({ ...procedure.value!, revision: nextLetter.value })
    const { id: fresh } = await api<{ id: string }>(`${session.base}/procedures`, {
      body: { id: uuidv7(), source },
    })
    await navigateTo(`/procedures/${fresh}?view=edit`)
  })
function save(kind: 'yaml' | 'json') {
  const text = kind === 'yaml' ? data.value!.source : JSON.stringify(procedure.value, null, 2)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(
    new Blob([text], { type: kind === 'yaml' ? 'application/yaml' : 'application/json' }),
  )
  link.download = `${data.value!.key}-${data.value!.revision}.${kind}`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!procedure || !data || !compiled" :loading="loading" />
  <div v-else class="procedure">
    <header>
      <div class="title">
        <h1 class="grow">{{ procedure.title }}</h1>
        <span class="state" :class="data.state"
          >Revision {{ procedure.revision }}, {{ procedureStateWords[data.state]!.toLowerCase()
          }}{{ data.issuedAt ? ` ${times.day(data.issuedAt)}` : '' }}</span
        >
      </div>
      <div class="tools">
        <ElRadioGroup v-model="view" aria-label="View of the procedure"
          ><ElRadioButton v-for="v in views" :key="v.key" :value="v.key">{{
            v.title
          }}</ElRadioButton></ElRadioGroup
        >
        <span class="grow" />
        <template v-if="engineer">
          <ElButton v-if="data.state === 'draft'" type="primary" size="large" @click="submit"
            >Give to review</ElButton
          >
          <template v-else-if="data.state === 'in-review' && data.draftedBy !== session.person?.id">
            <ElButton size="large" @click="signing = 'return'">Send back</ElButton
            ><ElButton type="primary" size="large" @click="signing = 'review'">Accept</ElButton>
          </template>
          <span v-else-if="data.state === 'in-review'" class="muted">waits for a second engineer</span>
          <ElButton
            v-else-if="data.state === 'reviewed'"
            type="primary"
            size="large"
            @click="signing = 'issue'"
            >Issue</ElButton
          >
          <ElButton v-else size="large" @click="draft">Draft revision {{ nextLetter }}</ElButton>
        </template>
        <NuxtLink
          v-if="(data.state === 'issued' || data.state === 'superseded') && session.can('see-office')"
          class="quiet"
          :to="`/deliveries/trace?kind=procedure&value=${id}`"
          >Joints made to it</NuxtLink
        >
        <ElButton v-if="view === 'read'" size="large" @click="print">Print</ElButton>
        <ElDropdown trigger="click"
          ><ElButton size="large">Save as</ElButton
          ><template #dropdown
            ><ElDropdownMenu
              ><ElDropdownItem @click="save('yaml')">YAML</ElDropdownItem
              ><ElDropdownItem @click="save('json')">JSON</ElDropdownItem></ElDropdownMenu
            ></template
          ></ElDropdown
        >
      </div>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    </header>
    <section class="body" :class="view" tabindex="0" aria-label="The procedure">
      <ProcedureReader v-if="view === 'read'" :procedure="procedure" />
      <ProcedureDryRun v-else-if="view === 'dry-run'" :compiled="compiled" />
      <ProcedureCompare
        v-else-if="view === 'compare' && listed"
        :compiled="compiled"
        :current="listed"
        :revisions="revisions"
      />
      <ProcedureEditor
        v-else-if="view === 'edit' && engineer"
        :key="data.state"
        :opened="data"
        :readonly="data.state !== 'draft'"
        @saved="refresh"
      />
      <ProcedureImpact v-else-if="view === 'impact'" :id="id" :source="data.source" />
      <ol v-else-if="view === 'record'" class="record">
        <li v-for="e in data.record" :key="e.id">
          <span class="muted">{{ times.moment(e.recordedAt) }}</span>
          <strong>{{ entryWords[e.kind] ?? e.kind }}</strong> {{ people[e.person] ?? '' }}
          <span class="muted"
            >{{
              e.kind === 'review' ? (e.payload.accepted ? 'accepted' : `sent back: ${e.payload.reason}`) : ''
            }}
            {{ String(e.payload.sha256 ?? '').slice(0, 12) }}</span
          >
        </li>
        <li v-if="data.record.length === 0" class="muted">Nothing is written yet.</li>
      </ol>
    </section>
    <SecretDialog
      v-if="signing"
      v-model="signOpen"
      :title="signWords[signing][1]"
      :action="signWords[signing][0]"
      :danger="signing === 'return'"
      :reason-label="signing === 'issue' ? undefined : signing === 'return' ? 'Why?' : 'Note (not needed)'"
      :reason-required="signing === 'return'"
      :send="sign"
    >
      <p class="muted">
        {{
          signing === 'issue'
            ? 'New joints are pinned to it from now on. Joints already opened keep theirs.'
            : signing === 'review'
              ? 'You have read it, and compared it with the revision before.'
              : 'It becomes a draft again.'
        }}
      </p>
    </SecretDialog>
  </div>
</template>

<style scoped>
.procedure {
  height: 100%;
  display: flex;
  flex-direction: column;
}
header {
  padding: 14px 24px 10px;
  border-bottom: 1px solid var(--hair);
}
.title,
.tools {
  display: flex;
  align-items: center;
  gap: 12px;
  flex-wrap: wrap;
}
.tools {
  margin-top: 8px;
}
.state {
  font-weight: 600;
  color: var(--held);
}
.state.issued {
  color: var(--accepted);
}
.state.superseded {
  color: var(--muted);
}
.body {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 18px 24px;
}
.body.dry-run:has(.run) {
  padding: 0;
  overflow: hidden;
}
.fault {
  color: var(--rejected);
  margin-top: 6px;
}
.record li {
  padding: 8px 0;
}
@media print {
  .tools {
    display: none;
  }
  .procedure,
  .body {
    height: auto;
    overflow: visible;
  }
}
@media (max-width: 720px) {
  header {
    padding: 10px 14px;
  }
  .body {
    padding: 14px;
  }
  .tools {
    overflow-x: auto;
  }
}
@media (max-width: 720px) {
  .title > * {
    flex: 1 0 100%;
  }
}
</style>
