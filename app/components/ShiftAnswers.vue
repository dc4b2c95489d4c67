<script setup lang="ts">
import type { ShiftAnswer } from '../../server/services/shift'
import { useSession } from '~/stores/session'

/** What was asked once today, by crew and procedure; each answer can be taken back for all its joints. */
const session = useSession()
const times = useTimes()
const { data, load } = useLoad(() => api<ShiftAnswer[]>(`${session.base}/shift`))
const crewName = (id: string) => session.crewName(id)
const personName = (id: string) => session.overview?.people.find((p) => p.id === id)?.name ?? ''

const groups = computed(() => {
  const out = new Map<string, { key: string; crew: string; procedure: string; answers: ShiftAnswer[] }>()
  for (const answer of data.value ?? []) {
    const key = `${answer.crew} ${answer.procedure.key}`
    const group = out.get(key) ?? {
      key,
      crew: crewName(answer.crew),
      procedure: answer.procedure.title,
      answers: [],
    }
    group.answers.push(answer)
    out.set(key, group)
  }
  return [...out.values()]
})

const asked = ref<ShiftAnswer | null>(null)
const asking = ref(false)
const mayTakeBack = (a: ShiftAnswer) =>
  session.can('record') && (a.person === session.person?.id || session.can('release-hold'))
function ask(answer: ShiftAnswer) {
  asked.value = answer
  asking.value = true
}
async function takeBack(reason: string) {
  await api(`${session.base}/shift/revoke`, { method: 'POST', body: { entry: asked.value!.entry, reason } })
  await load()
}
const joints = (a: ShiftAnswer) => a.joints.map((j) => j.number).join(', ')

onMounted(load)
useFeed(session.projectKey, () => void load())
</script>

<template>
  <section v-if="groups.length > 0" class="shift" aria-label="Answered once today">
    <header>
      <h2>Answered once today</h2>
      <span class="muted small">stands at every joint of the crew; tap an answer to take it back</span>
    </header>
    <div v-for="g in groups" :key="g.key" class="group">
      <p>
        <strong>{{ g.crew }}</strong> <span class="muted">{{ g.procedure }}</span>
      </p>
      <ul>
        <li v-for="a in g.answers" :key="a.entry">
          <button type="button" :disabled="!mayTakeBack(a)" @click="ask(a)">
            <span>{{ a.title }}: {{ a.answer }}</span>
            <span class="muted small"
              >{{ times.moment(a.answeredAt) }} at {{ a.joints[0]!.number
              }}<template v-if="a.joints.length > 1"> and {{ a.joints.length - 1 }} more</template></span
            >
          </button>
        </li>
      </ul>
    </div>
    <AskDialog
      v-model="asking"
      :title="asked ? `${asked.title}: ask again` : ''"
      label="Why it does not stand"
      action="Take it back"
      :send="takeBack"
    >
      <p v-if="asked">
        {{ asked.question }} “{{ asked.answer }}” of {{ personName(asked.person) }} is struck at
        {{ joints(asked) }}, and asked again at each of them and at the next joint.
      </p>
    </AskDialog>
  </section>
</template>

<style scoped>
.shift {
  margin-top: 32px;
}
header {
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 4px 12px;
  padding-bottom: 8px;
  border-bottom: 3px solid var(--ink);
}
.group {
  padding: 12px 0;
  border-bottom: 1px solid var(--hair);
}
p {
  margin: 0 0 8px;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  list-style: none;
  margin: 0;
  padding: 0;
}
button {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  min-height: 52px;
  padding: 6px 12px;
  border: 1px solid var(--hair);
  border-radius: 6px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  font-size: var(--s16);
  line-height: 1.3;
  text-align: left;
  cursor: pointer;
}
button:disabled {
  cursor: default;
  opacity: 1;
  color: inherit;
}
</style>
