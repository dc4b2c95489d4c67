<script setup lang="ts">
import { showCount, showMetres } from '#core/quantity/show'
import { uuidv7 } from 'uuidv7'
import type { Trace } from '~/drawings/trace-graph'
import { useSession } from '~/stores/session'

/**
 * Everything that a trace touches put into quarantine, after it was looked at: a report for each joint
 * chosen, and what is not built in.
 */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ trace: Trace; origin: { kind: string; value: string; since: number | null } }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const reason = ref('')
const stock = ref(true)
const left = ref(new Set<string>())
const fault = ref('')
const progress = ref<{ done: number; all: number } | null>(null)
const stopped = ref(false)
const outcome = ref('')
/** the id of each joint's report, kept so that sending again after a lost signal raises nothing twice */
const reports = new Map<string, string>()
watch(open, (now) => {
  if (!now) return
  reason.value = ''
  left.value = new Set(props.trace.joints.filter((j) => j.ncr).map((j) => j.id))
  fault.value = ''
  outcome.value = ''
})
const chosen = computed(() => props.trace.joints.filter((j) => !left.value.has(j.id)))
function toggle(id: string) {
  const next = new Set(left.value)
  if (!next.delete(id)) next.add(id)
  left.value = next
}
const BLOCK = 20
async function go() {
  if (!reason.value.trim()) return void (fault.value = 'Say why: it stands in every report.')
  fault.value = ''
  stopped.value = false
  const list = chosen.value
  progress.value = { done: 0, all: list.length }
  let items = 0
  try {
    for (let i = 0; i === 0 || i < list.length; i += BLOCK) {
      const joints = list.slice(i, i + BLOCK).map((j) => {
        if (!reports.has(j.id)) reports.set(j.id, uuidv7())
        return { joint: j.id, ncr: reports.get(j.id)! }
      })
      const reply = await api<{ raised: number; items: number }>(`${session.base}/trace/quarantine`, {
        body: { origin: props.origin, reason: reason.value.trim(), joints, stock: stock.value && i === 0 },
      })
      items += reply.items
      progress.value.done += joints.length
      if (stopped.value) break
    }
    outcome.value = `${progress.value.done} reports drafted${stock.value ? `, ${items} pieces not built in are quarantined` : ''}.`
    emit('done')
  } catch (error) {
    const { message } = problemOf(error, 'This was not finished.')
    const { done, all } = progress.value
    fault.value = `${message} ${done} of ${all} reports are drafted; press again to go on.`
  } finally {
    progress.value = null
  }
}
</script>

<template>
  <ElDialog
    v-model="open"
    :title="`Quarantine all that ${trace.origin.label} touches`"
    width="760px"
    align-center
  >
    <div class="body">
      <p v-if="outcome" class="fine" role="status">
        {{ outcome }} <NuxtLink to="/ncrs">To the reports</NuxtLink>
      </p>
      <template v-else>
        <ElCheckbox v-if="trace.loose.count > 0" v-model="stock" size="large"
          >{{ showCount(trace.loose.free) }} of {{ showCount(trace.loose.count) }} not built in: quarantine
          them{{ origin.kind === 'lot' ? ', and the lot from now on' : '' }}</ElCheckbox
        >
        <div class="row">
          <p class="grow">
            <strong>{{ chosen.length }}</strong> {{ chosen.length === 1 ? 'joint gets' : 'joints get' }} a
            report that an engineer decides on. Take out what is not in question.
          </p>
          <ElButton @click="left = new Set()">All</ElButton
          ><ElButton @click="left = new Set(trace.joints.map((j) => j.id))">None</ElButton>
        </div>
        <ul class="joints" aria-label="Joints to report on">
          <li v-for="j in trace.joints" :key="j.id">
            <label
              ><input
                type="checkbox"
                :checked="!left.has(j.id)"
                :aria-label="j.number"
                @change="toggle(j.id)"
              /><strong>{{ j.number }}</strong
              ><span class="muted">{{ showMetres(j.station, 0) }} · {{ trace.crews[j.crew] }}</span
              ><span v-if="j.ncr" class="muted">{{ j.ncr }} is open</span></label
            >
          </li>
        </ul>
        <p v-if="trace.total > trace.joints.length" class="muted small">
          The first {{ trace.joints.length }} of {{ showCount(trace.total) }}; the others follow when these
          have their reports.
        </p>
        <label
          >Why?<ElInput v-model="reason" type="textarea" :rows="2" maxlength="400" aria-label="Why?"
        /></label>
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      </template>
      <div class="actions">
        <span v-if="progress" role="status">{{ progress.done }} of {{ progress.all }} …</span
        ><ElButton v-if="progress" size="large" @click="stopped = true">Stop</ElButton>
        <ElButton v-else size="large" @click="open = false">{{ outcome ? 'Close' : 'Back' }}</ElButton>
        <ElButton
          v-if="!outcome"
          size="large"
          type="danger"
          :loading="progress !== null"
          :disabled="chosen.length === 0 && !(stock && trace.loose.free > 0) && origin.kind !== 'lot'"
          @click="go"
          >Quarantine</ElButton
        >
      </div>
    </div>
  </ElDialog>
</template>

<style scoped>
.body {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.joints {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 280px;
  overflow: auto;
  border: 1px solid var(--hair);
}
.joints label {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 44px;
  padding: 0 14px;
  border-bottom: 1px solid var(--hair);
  color: var(--ink);
  font-size: var(--s16);
}
input[type='checkbox'] {
  width: 22px;
  height: 22px;
  accent-color: var(--line);
}
label {
  font-size: var(--s14);
  color: var(--muted);
}
.actions {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 12px;
}
</style>
