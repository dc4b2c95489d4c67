<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { showNumber, showQuantity } from '#core/quantity/show'
import type { Halving } from '../../../server/services/halving'
import { useSession } from '~/stores/session'
import { packStateWords } from '~/words'

/** Narrows a failed test down to the joint: what is out, what is suspect, where to part it next. */
const props = defineProps<{ pack: { id: string; number: string; from: number; to: number } }>()
const session = useSession()
const { data, problem, load } = useLoad(() => api<Halving>(`${session.base}/packs/${props.pack.id}/halving`))
onMounted(load)
useFeed(session.projectKey, (rows) => rows.some((r) => r.subjectType === 'pack') && void load())
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const x = computed(() =>
  scaleLinear()
    .domain([props.pack.from, props.pack.to])
    .range([8, Math.max(20, width.value - 8)]),
)
const wide = (s: { from: number; to: number }) => Math.max(2, x.value(s.to) - x.value(s.from))
const { busy, words, send } = useSending('This was not planned.')
const plan = () =>
  send(async () => {
    await api(`${session.base}/packs/${props.pack.id}/halve`, { body: { at: data.value!.next!.at } })
    await load()
  })
const open = computed(() => data.value?.parts.some((p) => p.tight === null) ?? false)
const metres = (m: number) => showQuantity(Math.round(m * 10) / 10, 'length', 'm', 6)
const order = [
  'Valves and closures first: they leak most often, and are seen without digging.',
  'Joints that lie open, with a torch and dry paper.',
  'Then halve: every test of a half takes half of the joints out.',
]
</script>

<template>
  <section class="halving" aria-label="Down to the leak">
    <h2>Down to the leak</h2>
    <ol>
      <li v-for="o in order" :key="o">{{ o }}</li>
    </ol>
    <p v-if="problem && !data" class="muted">{{ problem.message }}</p>
    <template v-if="data">
      <div ref="box">
        <svg
          v-if="width > 0"
          :width="width"
          :height="64 + data.parts.length * 20"
          role="img"
          :aria-label="`${data.joints} joints are still suspect, in ${data.suspects.length} stretches`"
        >
          <line :x1="8" :x2="width - 8" y1="26" y2="26" stroke="var(--hair)" stroke-width="4" />
          <rect
            v-for="s in data.suspects"
            :key="s.from"
            :x="x(s.from)"
            y="16"
            :width="wide(s)"
            height="20"
            fill="var(--rejected)"
            opacity="0.75"
          />
          <line
            v-for="j in data.suspects.flatMap((s) => s.joints)"
            :key="j.id"
            :x1="x(j.station)"
            :x2="x(j.station)"
            y1="16"
            y2="36"
            stroke="var(--paper)"
            stroke-width="1"
          />
          <g v-if="data.next">
            <path :d="`M${x(data.next.at)} 12l-7 -11h14Z`" fill="var(--ink)" />
            <line
              :x1="x(data.next.at)"
              :x2="x(data.next.at)"
              y1="12"
              y2="40"
              stroke="var(--ink)"
              stroke-width="2"
            />
          </g>
          <text x="8" y="54">{{ metres(pack.from) }}</text>
          <text :x="width - 8" y="54" text-anchor="end">{{ metres(pack.to) }}</text>
          <g v-for="(p, i) in data.parts" :key="p.id">
            <rect
              :x="x(p.from)"
              :y="62 + i * 20"
              :width="wide(p)"
              height="12"
              :fill="p.tight === null ? 'var(--wash)' : p.tight ? 'var(--accepted)' : 'var(--rejected)'"
              stroke="var(--muted)"
            />
          </g>
        </svg>
      </div>
      <ul v-if="data.parts.length > 0" class="parts">
        <li v-for="p in data.parts" :key="p.id">
          <NuxtLink :to="`/tests/${p.id}`">{{ p.number }}</NuxtLink> {{ metres(p.from) }} to
          {{ metres(p.to) }}:
          {{ p.tight === null ? packStateWords[p.state]!.toLowerCase() : p.tight ? 'tight' : 'leaks' }}
        </li>
      </ul>
      <p v-if="data.joints === 1" class="found">
        One joint is left:
        <NuxtLink :to="`/joints/${data.suspects.flatMap((s) => s.joints)[0]!.id}`">{{
          data.suspects.flatMap((s) => s.joints)[0]!.number
        }}</NuxtLink>
      </p>
      <p v-else-if="data.suspects.length === 0" class="found">
        Every part was tight by itself: the leak was at an end closure or valve, or has closed.
      </p>
      <p v-else>
        <strong>{{ data.joints }} joints</strong> are suspect. Halving takes about
        <strong>{{ showNumber(data.expected, 2) }} more tests</strong>, instead of opening each of them.
        <template v-if="data.next">
          Part it at {{ data.next.name ?? 'the joint' }}, {{ metres(data.next.at) }}.</template
        >
      </p>
      <p v-if="words" class="fault" role="alert">{{ words }}</p>
      <ElButton
        v-if="data.next && !open && session.can('plan-halves')"
        type="primary"
        size="large"
        :loading="busy"
        @click="plan"
        >Plan the two halves</ElButton
      >
      <p v-else-if="open" class="muted">A half is planned: its test says where to go on.</p>
    </template>
  </section>
</template>

<style scoped>
.halving {
  margin-top: 24px;
  border-top: 1px solid var(--hair);
  padding-top: 16px;
}
h2 {
  margin: 0 0 8px;
}
ol,
.parts {
  margin: 0 0 12px;
  padding-left: 22px;
}
svg {
  display: block;
}
text {
  font-size: 14px;
  fill: var(--muted);
}
.found {
  border-left: 4px solid var(--rejected);
  padding-left: 12px;
  font-weight: 600;
}
</style>
