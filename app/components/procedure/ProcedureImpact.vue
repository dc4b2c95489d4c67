<script setup lang="ts">
import type { JudgeOptions } from '#core/judgement/types'
import type { JointToRejudge } from '../../../server/services/procedures'
import { useSession } from '~/stores/session'
import { stateWords } from '~/words'
import type { Rejudged, RejudgeReply, RejudgeRequest } from '~/workers/rejudge.worker'

/**
 * What this revision would change for joints already made: judged anew in a worker, page by page; it can
 * be stopped.
 */
const props = defineProps<{ id: string; source: string }>()
const session = useSession()
const judged = ref(0)
const changed = shallowRef<Rejudged[]>([])
const state = ref<'idle' | 'running' | 'done' | 'stopped'>('idle')
const fault = ref('')
let worker: Worker | null = null
const stop = () => {
  worker?.terminate()
  worker = null
  if (state.value === 'running') state.value = 'stopped'
}
onBeforeUnmount(stop)

const ask = (w: Worker, request: RejudgeRequest) =>
  new Promise<RejudgeReply>((done, failed) => {
    w.onmessage = ({ data }) => done(data as RejudgeReply)
    w.onerror = (e) => failed(new Error(e.message))
    w.postMessage(request)
  })
async function begin() {
  stop()
  const mine = (worker = new Worker(new URL('../../workers/rejudge.worker.ts', import.meta.url), {
    type: 'module',
  }))
  judged.value = 0
  changed.value = []
  state.value = 'running'
  fault.value = ''
  mine.postMessage({ kind: 'begin', source: props.source } satisfies RejudgeRequest)
  try {
    for (let after = ''; ;) {
      const page = await api<{ options: JudgeOptions; joints: JointToRejudge[] }>(
        `${session.base}/procedures/${props.id}/joints`,
        after ? { query: { after } } : {},
      )
      if (worker !== mine) return
      if (page.joints.length === 0) break
      const reply = await ask(mine, { kind: 'joints', ...page, now: deviceNow() })
      judged.value += reply.judged
      changed.value = [...changed.value, ...reply.changed]
      after = page.joints.at(-1)!.id
    }
    state.value = 'done'
  } catch (error) {
    if (worker !== mine) return
    fault.value = problemOf(error, 'The joints could not be judged anew.').message
    state.value = 'stopped'
  }
}
const groups = computed(() =>
  [
    {
      key: 'rejected',
      title: 'would now be rejected',
      list: changed.value.filter((c) => c.after === 'rejected'),
    },
    {
      key: 'too-close',
      title: 'would now be too close to call',
      list: changed.value.filter((c) => c.after === 'too-close'),
    },
    {
      key: 'open',
      title: 'would lack something',
      list: changed.value.filter((c) => !['rejected', 'too-close'].includes(c.after)),
    },
  ].filter((g) => g.list.length > 0),
)
const accepted = (n: number) => `${n} accepted ${n === 1 ? 'joint' : 'joints'}`
</script>

<template>
  <div class="impact">
    <p class="muted">
      Joints keep the revision they were made to. This judges every joint made to any revision of this
      procedure anew, as if it had been made to this one.
    </p>
    <div class="row">
      <ElButton v-if="state !== 'running'" type="primary" size="large" @click="begin">{{
        state === 'idle' ? 'Judge them anew' : 'Again'
      }}</ElButton>
      <ElButton v-else size="large" @click="stop">Stop</ElButton>
      <span role="status">{{
        state === 'idle'
          ? ''
          : `${judged} judged${state === 'running' ? ' …' : state === 'stopped' ? ', stopped' : ''}`
      }}</span>
    </div>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="state === 'done' && changed.length === 0"><strong>No accepted joint would change.</strong></p>
    <section v-for="g in groups" :key="g.key">
      <h2>{{ accepted(g.list.length) }} {{ g.title }}</h2>
      <div class="sheet">
        <table class="figures">
          <thead>
            <tr>
              <th>Joint</th>
              <th>Made to</th>
              <th>Would be</th>
              <th>Because</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in g.list.slice(0, 200)" :key="c.id">
              <td class="nowrap">
                <NuxtLink :to="`/joints/${c.id}`"
                  ><strong>{{ c.number }}</strong></NuxtLink
                >
              </td>
              <td>{{ c.revision }}</td>
              <td><StateGlyph :state="c.after" :size="22" word /></td>
              <td>
                <p v-for="s in c.steps.slice(0, 3)" :key="s.title">
                  <strong>{{ s.title }}:</strong> {{ s.sentence }}
                </p>
                <p v-if="c.steps.length > 3" class="muted small">
                  and {{ c.steps.length - 3 }} more; {{ stateWords[c.after] }}
                </p>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="g.list.length > 200" class="muted small">The first 200 are shown.</p>
    </section>
  </div>
</template>

<style scoped>
.impact {
  display: flex;
  flex-direction: column;
  gap: 16px;
  max-width: 980px;
}
td.nowrap {
  white-space: nowrap;
}
h2 {
  margin-bottom: 8px;
}
</style>
