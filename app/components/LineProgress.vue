<script setup lang="ts">
import { inSite, unitShown } from '#core/quantity/site-units'
import { showCount } from '#core/quantity/show'
import { useSession } from '~/stores/session'
import type { Strip } from '~/stores/strip'

const session = useSession()
/** How far the line has come, lane by lane, drawn to scale against all that is planned. */
const props = defineProps<{ strip: Strip; from: number; to: number }>()

const metres = (spans: readonly { from: number; to: number }[]) =>
  spans.reduce((m, s) => m + s.to - s.from, 0)
const lanes = computed(() => {
  const stays = (s: { state: string }) => s.state !== 'withdrawn'
  const joints = props.strip.joints.filter(stays)
  const reaches = props.strip.reaches.filter(stays)
  const packs = props.strip.packs.filter(stays)
  // Of a crew that sees its own work only, its own is all that is planned.
  const planned = (spans: readonly { from: number; to: number }[]) =>
    Math.max(metres(spans), session.overview?.crew ? 0 : props.to - props.from)
  const m = (n: number) => `${showCount(inSite(n, 'm'))} ${unitShown('m')}`
  const lane = (
    key: string,
    title: string,
    done: number,
    begun: number,
    all: number,
    say: (n: number) => string,
  ) => ({
    key,
    title,
    done: all > 0 ? done / all : 0,
    begun: all > 0 ? begun / all : 0,
    words: `${say(done)} of ${say(all)}`,
  })
  const opened = joints.filter((j) => j.opened && j.state !== 'accepted').length
  return [
    lane(
      'delivered',
      'Delivered',
      joints.filter((j) => j.delivered).length,
      0,
      joints.length,
      (n) => `${showCount(n)}`,
    ),
    lane(
      'joints',
      'Joints',
      joints.filter((j) => j.state === 'accepted').length,
      opened,
      joints.length,
      showCount,
    ),
    lane(
      'embedment',
      'Embedment',
      metres(reaches.filter((r) => r.state === 'accepted')),
      metres(reaches.filter((r) => r.state !== 'accepted' && r.state !== 'not-started')),
      planned(reaches),
      m,
    ),
    lane(
      'test',
      'Test',
      metres(packs.filter((p) => p.state === 'signed')),
      metres(packs.filter((p) => p.state !== 'signed' && p.state !== 'planned')),
      planned(packs),
      m,
    ),
  ]
})
const share = (part: number) => `${Math.round(Math.min(1, part) * 1000) / 10}%`
</script>

<template>
  <section aria-label="Progress">
    <h2>Done of what is planned</h2>
    <dl>
      <div v-for="l in lanes" :key="l.key">
        <dt>{{ l.title }}</dt>
        <dd>
          <span class="bar" aria-hidden="true">
            <span class="done" :style="{ width: share(l.done) }" /><span
              class="begun"
              :style="{ width: share(Math.min(l.begun, 1 - l.done)) }"
            />
          </span>
          <span class="words">{{ l.words }}</span>
        </dd>
      </div>
    </dl>
    <p class="muted small">Full: accepted or signed. Hatched: begun.</p>
  </section>
</template>

<style scoped>
h2 {
  margin: 0 0 8px;
}
dl {
  margin: 0;
}
dl > div {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  gap: 12px;
  align-items: center;
  min-height: 44px;
  border-top: 1px solid var(--hair);
}
dt {
  color: var(--muted);
}
dd {
  margin: 0;
  display: grid;
  grid-template-columns: minmax(60px, 1fr) 170px;
  gap: 12px;
  align-items: center;
}
.bar {
  display: flex;
  height: 14px;
  border: 1px solid var(--idle);
}
.done {
  background: var(--accepted);
}
.begun {
  background: repeating-linear-gradient(-45deg, var(--line) 0 3px, transparent 3px 7px);
}
.words {
  font-variant-numeric: tabular-nums;
  text-align: right;
  white-space: nowrap;
}
</style>
