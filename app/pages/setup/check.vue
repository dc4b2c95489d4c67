<script setup lang="ts">
import type { PlanFinding } from '#core/plan/check'
import type { checkPlan } from '../../../server/services/planning'
import type { TemplateTaken } from '../../../server/services/template'
import type { ChosenFile } from '~/components/delivery/FileDrop.vue'
import { useSession } from '~/stores/session'

/** What still misses before a crew can work, and what is ready. */
type Reply = Awaited<ReturnType<typeof checkPlan>>
const session = useSession()
const { data, problem, loading, load } = useLoad(() => api<Reply>(`${session.base}/plan`))
onMounted(load)
if (session.can('see-site')) useFeed(session.projectKey, () => void load())

const places: Record<PlanFinding['where'], { to: string; word: string }> = {
  people: { to: '/setup/people', word: 'People' },
  lines: { to: '/setup/lines', word: 'Lines' },
  joints: { to: '/setup/joints', word: 'Joints' },
  reaches: { to: '/setup/reaches', word: 'Reaches' },
  procedures: { to: '/procedures', word: 'Procedures' },
  instruments: { to: '/setup', word: 'Instruments' },
  packs: { to: '/setup/lists/packs', word: 'Test packs' },
  articles: { to: '/setup/lists/articles', word: 'Articles' },
}
const needed = computed(() => data.value?.findings.filter((f) => f.needed) ?? [])
const helps = computed(() => data.value?.findings.filter((f) => !f.needed) ?? [])
const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`
const stands = computed(() => {
  const plan = data.value?.plan
  if (!plan) return []
  const joints = plan.lines.reduce((n, l) => n + l.joints, 0)
  const issued = plan.systems.filter((s) => s.issued).length
  return [
    plan.lines.length > 0 && count(plan.lines.length, 'line'),
    joints > 0 && `${count(joints, 'joint')} planned`,
    issued > 0 && `${count(issued, 'procedure')} issued for them`,
    plan.crews.length > 0 && count(plan.crews.length, 'crew'),
    plan.instruments > 0 && `${count(plan.instruments, 'instrument')} in calibration`,
  ].filter((s): s is string => typeof s === 'string')
})

const file = ref<ChosenFile | null>(null)
const taken = ref('')
const { busy, fault, send } = useSending()
async function take() {
  const done = await send(() =>
    api<TemplateTaken>(`${session.base}/template`, { body: { file: file.value } }),
  )
  if (!done) return
  taken.value =
    `${done.procedures} procedures as drafts and ${done.articles} articles were taken; ` +
    `${done.passedOver} were there already.`
  file.value = null
  await load()
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Plan check">
    <SetupTabs />
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <template v-else>
      <div class="verdict" :class="needed.length === 0 ? 'accepted' : 'rejected'">
        <StateGlyph :state="needed.length === 0 ? 'accepted' : 'in-work'" :size="40" />
        <div>
          <h1>
            {{
              needed.length === 0
                ? 'Crews can work'
                : `${count(needed.length, 'thing')} to do before crews can work`
            }}
          </h1>
          <p v-if="stands.length > 0" class="muted">Ready: {{ stands.join(', ') }}.</p>
        </div>
      </div>
      <section v-if="needed.length > 0" aria-label="Needed">
        <h2>Needed</h2>
        <ul class="list sheet">
          <li v-for="f in needed" :key="f.sentence">
            <StateGlyph state="not-started" :size="28" /><span class="grow">{{ f.sentence }}</span
            ><NuxtLink class="button" :to="places[f.where].to">{{ places[f.where].word }}</NuxtLink>
          </li>
        </ul>
      </section>
      <section v-if="helps.length > 0" aria-label="Helps">
        <h2>Not needed, but it helps</h2>
        <ul class="list sheet">
          <li v-for="f in helps" :key="f.sentence">
            <span class="grow">{{ f.sentence }}</span><NuxtLink class="button" :to="places[f.where].to">{{
              places[f.where].word
            }}</NuxtLink>
          </li>
        </ul>
      </section>
    </template>
    <section v-if="session.can('plan-work')" aria-label="Template" class="template">
      <h2>From one project to the next</h2>
      <p class="muted">
        A template holds the issued procedures, the points and schools chosen, and the articles: no records
        and no people. What this project has already stays as it is; procedures come as drafts, to be reviewed
        and issued here.
      </p>
      <p v-if="taken" class="done" role="status">{{ taken }}</p>
      <p v-if="fault" class="fault" role="alert">{{ fault.message }}</p>
      <div class="row">
        <FileDrop
          v-if="session.can('write-procedure')"
          v-model="file"
          label="Template of another project (JSON)"
          accept=".json"
          class="grow"
        />
        <a class="take" :href="`/api/${session.base}/template`" download>Take the template of this project</a>
      </div>
      <ElButton v-if="file" type="primary" size="large" :loading="busy" @click="take"
        >Take it into this project</ElButton
      >
    </section>
  </div>
</template>

<style scoped>
.verdict {
  display: flex;
  gap: 18px;
  align-items: center;
  padding: 8px 0 20px;
}
.verdict p {
  margin: 4px 0 0;
}
section {
  margin-bottom: 28px;
}
h2 {
  margin-bottom: 8px;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 60px;
  padding: 8px 16px;
  border-bottom: 1px solid var(--hair);
}
.template .row {
  flex-wrap: wrap;
  margin: 12px 0;
}
.template p {
  max-width: 70ch;
}
.done {
  padding: 12px 16px;
  border-left: 4px solid var(--accepted);
}
.take,
.button {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 12px;
  color: var(--line);
  font-weight: 600;
}
</style>
