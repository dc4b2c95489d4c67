<script setup lang="ts">
import { showLeft } from '#core/quantity/show'
import type { JointClock } from '../../server/services/clocks'
import { useSession } from '~/stores/session'

/**
 * Every clock over all joints: open time, hold, set, cure, cooling. Early, in time, late; sound where the
 * device can.
 */
const session = useSession()
const times = useTimes()
const now = useNow()
const { data, problem, loading, load } = useLoad(() => api<JointClock[]>(`${session.base}/clocks`))
onMounted(load)
useFeed(session.projectKey, (rows) => {
  if (rows.some((r) => r.subjectType === 'joint')) void load()
})
const list = computed(() =>
  (data.value ?? [])
    .map((c) => {
      const left = (c.until - now.value) / 1000
      // A clock with only a latest time must be answered before it; the others not before they have run.
      const hurry = c.latest !== null && c.latest === c.until
      const late = c.latest !== null && now.value > c.latest
      return {
        ...c,
        left,
        hurry,
        late,
        state: late ? 'late' : hurry ? 'hurry' : left > 0 ? 'early' : c.action ? 'due' : 'run',
        share: Math.min(1, Math.max(0, (now.value - c.startedAt) / Math.max(1, c.until - c.startedAt))),
      }
    })
    .sort((a, b) => a.until - b.until),
)
const groups = computed(() => [
  {
    key: 'now',
    title: 'Now',
    hint: 'Nothing has to be done at this moment.',
    list: list.value.filter((c) => ['late', 'hurry', 'due'].includes(c.state)),
  },
  {
    key: 'running',
    title: 'Running',
    hint: 'No clock runs.',
    list: list.value.filter((c) => c.state === 'early'),
  },
])
const due = computed(
  () =>
    data.value &&
    list.value
      .filter((c) => ['due', 'late'].includes(c.state))
      .map((c) => ({ key: `${c.joint} ${c.step}`, says: `${c.number}: ${c.action ?? c.title}` })),
)
const { on, turn } = useChime(due)
const words: Record<string, string> = {
  late: 'too late',
  hurry: 'before',
  early: 'not before',
  due: 'the time has come',
  run: 'has run',
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1 class="grow">Clocks</h1>
      <ElSwitch
        :model-value="on"
        inline-prompt
        size="large"
        active-text="Sound on"
        inactive-text="Sound off"
        aria-label="Sound when a clock has run"
        style="--el-switch-off-color: var(--muted)"
        @update:model-value="(v: string | number | boolean) => turn(Boolean(v))"
      />
    </div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="list.length === 0"
      empty="No clock runs"
      hint="Clocks start with a recorded step: fusion, cement, setting."
    />
    <template v-else>
      <section v-for="g in groups" :key="g.key" :aria-label="g.title">
        <h2>
          {{ g.title }}<span class="muted"> {{ g.list.length || '' }}</span>
        </h2>
        <p v-if="g.list.length === 0" class="muted">{{ g.hint }}</p>
        <NuxtLink
          v-for="c in g.list"
          :key="c.joint + c.step"
          :to="`/joints/${c.joint}?step=${c.step}`"
          class="clock"
          :class="c.state"
        >
          <span class="left" role="timer" :aria-label="`${c.number}, ${c.title}`">{{
            c.left > 0 ? showLeft(c.left) : c.late ? `−${showLeft((now - c.latest!) / 1000)}` : 'now'
          }}</span>
          <span class="what"
            ><strong>{{ c.number }}</strong> {{ c.title
            }}<span class="muted small">{{
              c.action ?? (c.gate ? 'opens the pressure test' : '')
            }}</span></span
          >
          <span class="muted when"
            >{{ words[c.state] }} {{ c.state === 'due' ? '' : times.moment(c.until) }}</span
          >
          <span class="muted crew">{{ c.crew }}</span>
          <span class="track"><span :style="{ width: `${c.share * 100}%` }" /></span>
        </NuxtLink>
      </section>
    </template>
  </div>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
h2 .muted {
  margin-left: 8px;
}
h2 {
  border-bottom: 3px solid var(--ink);
  padding-bottom: 6px;
}
.clock {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr) 250px 130px;
  align-items: center;
  gap: 2px 18px;
  min-height: 64px;
  padding: 6px 2px 0;
  color: inherit;
  text-decoration: none;
  border-bottom: 1px solid var(--hair);
}
.left {
  font-size: var(--s28);
  font-weight: 650;
  color: var(--waiting);
}
.due .left,
.hurry .left {
  color: var(--held);
}
.late .left {
  color: var(--rejected);
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
.what .small {
  width: 100%;
}
.track {
  grid-column: 1 / -1;
  height: 4px;
  background: var(--wash);
}
.track span {
  display: block;
  height: 4px;
  background: currentColor;
  color: var(--waiting);
}
.due .track span,
.hurry .track span {
  color: var(--held);
}
.late .track span {
  color: var(--rejected);
}
@media (max-width: 720px) {
  .clock {
    grid-template-columns: minmax(0, 1fr) auto;
    padding-top: 10px;
  }
  .what {
    grid-row: 1;
    grid-column: 1;
  }
  .left {
    grid-row: 1;
    grid-column: 2;
    text-align: right;
  }
}
</style>
