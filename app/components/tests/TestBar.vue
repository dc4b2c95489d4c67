<script setup lang="ts">
import type { packSheet } from '../../../server/services/pack-view'
import type { useTestActions } from '~/composables/useTestActions'
import { useSession } from '~/stores/session'

/** What can be done with a test now, with the dialogs that it takes. */
type Sheet = Awaited<ReturnType<typeof packSheet>>
const props = defineProps<{ sheet: Sheet; acts: ReturnType<typeof useTestActions>; hasReadings: boolean }>()
const session = useSession()
const now = useNow()
const times = useTimes()
const mayRun = computed(() => session.can('run-test'))
const pack = computed(() => props.sheet.pack)
const { fault, busy } = props.acts
const open = computed(() => props.sheet.ready.filter((r) => r.state === 'open'))
/** a run that did not settle it is run again */
const again = computed(
  () =>
    pack.value.state === 'failed' || (pack.value.state === 'evaluated' && pack.value.verdict === 'too-close'),
)

const startOpen = ref(false)
const reason = ref('')
const begin = () =>
  open.value.length === 0 && !again.value ? props.acts.start() : void (startOpen.value = true)
async function start(text: string) {
  await props.acts.post('start', {
    reason: open.value.length > 0 ? (again.value ? reason.value : text) : null,
    since: again.value ? text : null,
  })
}
watch(startOpen, () => {
  reason.value = ''
})

const file = shallowRef<File | null>(null)
const fileOpen = ref(false)
const fileInput = ref<HTMLInputElement | null>(null)
function chooseFile(event: Event) {
  const input = event.target as HTMLInputElement
  file.value = input.files?.[0] ?? null
  input.value = ''
  fileOpen.value = file.value !== null
}
const foreignOpen = computed({
  get: () => props.acts.foreign.value !== null,
  set: (on) => void (on || props.acts.leaveForeign()),
})
const signOpen = ref(false)
</script>

<template>
  <footer class="bar">
    <p class="grow">
      <span v-if="fault" class="fault" role="alert">{{ fault }}</span><span
        v-else-if="sheet.run?.reason"
        class="muted"
        >Started with open rows: {{ sheet.run.reason }}</span
      ><span v-else-if="pack.dueAt && pack.state === 'planned'" class="muted"
        >Due {{ times.moment(pack.dueAt) }} · now {{ times.clock(now) }}</span
      >
    </p>
    <NuxtLink v-if="pack.state === 'running'" :to="`/tests/${pack.id}/watch`" class="link">Watch</NuxtLink>
    <a v-if="pack.logFile" :href="`/api/${acts.path}/log`" download class="link">Log as CSV</a>
    <a v-if="pack.logFile" :href="`/api/${acts.path}/record`" download class="link">Record</a>
    <a v-if="pack.logFile" :href="`/api/${acts.path}/certificate`" target="_blank" class="link"
      >Certificate (PDF)</a
    >
    <template v-if="mayRun">
      <ElButton
        v-if="pack.state === 'planned' || again"
        type="primary"
        size="large"
        class="primary"
        :loading="busy"
        @click="begin"
        >{{ again ? 'Start again' : 'Start the test' }}</ElButton
      >
      <template v-if="pack.state === 'running'">
        <ElButton v-if="hasReadings" size="large" :loading="busy" @click="acts.endRun(null)"
          >End the run and evaluate</ElButton
        >
        <ElButton type="primary" size="large" class="primary" :loading="busy" @click="fileInput?.click()"
          >Take the log from CSV</ElButton
        >
        <input
          ref="fileInput"
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          class="visually-hidden"
          tabindex="-1"
          aria-label="Log as CSV"
          @change="chooseFile"
        />
      </template>
      <ElButton
        v-if="pack.state === 'failed' && sheet.ncrs.length === 0"
        type="danger"
        size="large"
        :loading="busy"
        @click="acts.raise"
        >Raise the nonconformance</ElButton
      >
    </template>
    <ElButton
      v-if="pack.state === 'evaluated' && pack.verdict === 'accept' && session.can('sign-test')"
      type="primary"
      size="large"
      class="primary"
      @click="signOpen = true"
      >Sign</ElButton
    >
    <AskDialog
      v-model="startOpen"
      :title="again ? 'Run it again' : 'Start with open rows'"
      :label="again ? 'What was found and done since the last run' : 'Reason (an engineer’s)'"
      action="Start the test"
      :send="start"
      ><ul v-if="open.length">
        <li v-for="r in open" :key="r.key">{{ r.title }}: {{ r.sentence }}</li>
      </ul>
      <label v-if="again && open.length" class="label"
        >Reason for the open rows (an engineer’s)<ElInput v-model="reason" maxlength="2000" /></label
    ></AskDialog>
    <AskDialog
      v-model="foreignOpen"
      title="A log that counts by your word alone"
      label="Why it is of this test all the same"
      action="Take the log"
      :send="acts.takeForeign"
      ><p>{{ acts.foreign.value?.sentence }}</p></AskDialog
    >
    <LogFile v-model="fileOpen" :path="acts.path" :file="file" :send="acts.endRun" />
    <SignPad
      v-model="signOpen"
      title="Sign the test"
      :name="session.person?.name ?? ''"
      :digest="sheet.digest ?? ''"
      :send="(body) => acts.post('sign', body)"
    />
  </footer>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 16px 0 24px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.link {
  min-height: 44px;
  display: inline-flex;
  align-items: center;
}
.label {
  font-size: var(--s14);
  color: var(--muted);
}
.primary {
  min-width: 220px;
  --el-button-size: 56px;
  font-size: var(--s18);
}
@media (max-width: 720px) {
  .bar {
    flex-wrap: wrap;
    padding: 6px 10px;
    gap: 6px 10px;
  }
  .bar > * {
    margin: 0;
  }
  .bar > .grow:empty {
    display: none;
  }
  .primary {
    min-width: 200px;
    flex: 1;
  }
}
</style>
