<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import type { ProcedureListed } from '~/composables/types'
import { useSession } from '~/stores/session'
import { procedureStateWords } from '~/words'

/** The library: every procedure by material, its issued revision first. */
const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<ProcedureListed[]>(`${session.base}/procedures`))
onMounted(load)
const text = ref('')
const drafting = computed(() => session.can('write-procedure'))
const rank: Record<string, number> = { issued: 0, reviewed: 1, 'in-review': 2, draft: 3, superseded: 4 }
const shown = computed(() => {
  const wanted = text.value.trim().toLowerCase()
  return (data.value ?? []).filter(
    (p) => !wanted || `${p.title} ${p.key} ${p.material} ${p.system}`.toLowerCase().includes(wanted),
  )
})
const groups = computed(() => [
  ...Map.groupBy(
    [...shown.value].sort(
      (a, b) =>
        a.material.localeCompare(b.material) ||
        a.title.localeCompare(b.title) ||
        rank[a.state]! - rank[b.state]!,
    ),
    (p) => p.material,
  ),
])
const waiting = computed(() =>
  (data.value ?? []).filter((p) => p.state === 'in-review' || p.state === 'reviewed' || p.state === 'draft'),
)

const file = useTemplateRef<HTMLInputElement>('file')
const adopting = ref(false)
const fault = ref('')
async function bring(event: Event) {
  const chosen = (event.target as HTMLInputElement).files?.[0]
  if (!chosen) return
  fault.value = ''
  try {
    const { id } = await api<{ id: string }>(`${session.base}/procedures`, {
      body: { id: uuidv7(), source: await chosen.text() },
    })
    await navigateTo(`/procedures/${id}?view=edit`)
  } catch (error) {
    fault.value = `${chosen.name}: ${problemOf(error, 'the file could not be read.').message}`
  } finally {
    if (file.value) file.value.value = ''
  }
}
</script>

<template>
  <div class="page">
    <ProcedureTabs />
    <div class="page-head">
      <h1 class="grow">Procedures</h1>
      <ElInput
        v-model="text"
        placeholder="Find by system, material or title"
        clearable
        aria-label="Find a procedure"
        style="width: 320px"
      />
      <template v-if="drafting">
        <ElButton size="large" @click="adopting = true">Adopt a sample</ElButton>
        <ElButton size="large" @click="file?.click()">Import a document</ElButton>
        <input
          ref="file"
          type="file"
          accept=".yaml,.yml,.json"
          class="visually-hidden"
          tabindex="-1"
          aria-label="Procedure document"
          @change="bring"
        />
      </template>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }} Nothing was taken in.</p>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No procedure is issued"
      hint="The engineer adopts a sample or imports a document, has it reviewed, and issues it."
    >
      <ElButton v-if="drafting" type="primary" size="large" @click="adopting = true">Adopt a sample</ElButton>
    </Notice>
    <template v-else>
      <p v-if="waiting.length && drafting" class="waiting">
        <strong
          >{{ waiting.length === 1 ? 'One revision is' : `${waiting.length} revisions are` }} on the
          way:</strong
        >
        <NuxtLink v-for="p in waiting" :key="p.id" :to="`/procedures/${p.id}`"
          >{{ p.title }} {{ p.revision }}, {{ procedureStateWords[p.state]!.toLowerCase() }}</NuxtLink
        >
      </p>
      <Notice
        v-if="shown.length === 0"
        empty="Nothing by that name"
        hint="Try a material, or a word of the title."
      />
      <section v-for="[material, list] in groups" :key="material">
        <h2>{{ material }}</h2>
        <NuxtLink v-for="p in list" :key="p.id" :to="`/procedures/${p.id}`" class="line" :class="p.state">
          <span class="grow"
            ><strong>{{ p.title }}</strong></span
          >
          <span class="cell">Revision {{ p.revision }}</span>
          <span class="cell state">{{ procedureStateWords[p.state] }}</span>
          <span class="cell muted">{{ p.issuedAt ? times.day(p.issuedAt) : '' }}</span>
          <span class="cell muted">{{ p.joints ? `${p.joints} joints` : 'no joint yet' }}</span>
        </NuxtLink>
      </section>
    </template>
    <ProcedureSamples v-model="adopting" @adopted="load" />
  </div>
</template>

<style scoped>
section {
  margin-bottom: 18px;
}
h2 {
  padding-bottom: 4px;
  border-bottom: 2px solid var(--ink);
}
h2::first-letter {
  text-transform: uppercase;
}
.line {
  display: flex;
  align-items: center;
  gap: 18px;
  min-height: 48px;
  padding: 4px 2px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
}
.line:hover {
  background: var(--wash);
}
.cell {
  width: 108px;
  flex: none;
}
.superseded {
  color: var(--muted);
}
.issued .state {
  color: var(--accepted);
  font-weight: 600;
}
.in-review .state,
.reviewed .state,
.draft .state {
  color: var(--held);
  font-weight: 600;
}
.waiting {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  border-left: 4px solid var(--held);
  padding: 8px 14px;
  margin-bottom: 18px;
}
.fault {
  color: var(--rejected);
  margin-bottom: 12px;
}
@media (max-width: 720px) {
  .line {
    flex-wrap: wrap;
    gap: 2px 14px;
    padding: 10px 2px;
  }
  .line > .grow {
    flex: 1 0 100%;
  }
  .cell {
    width: auto;
  }
  .page-head .el-input {
    width: 100% !important;
  }
}
</style>
