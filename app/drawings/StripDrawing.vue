<script setup lang="ts">
import { siteTicks } from '~/drawings/site-ticks'
import { showStretch, showMetres } from '#core/quantity/show'
import { computed } from 'vue'
import type { ProfilePoint } from '#core/pressure/pack'
import { elevationAt } from '#core/pressure/pack'
import type { Strip, StripJoint } from '~/stores/strip'
import { packStateGlyphs, packStateWords } from '~/words'
import { runsOf, stateColour, within } from './strip-runs'

/** The line on its lanes – delivered, joints, embedment, test – over its profile. */
const props = defineProps<{
  width: number
  left: number
  view: [number, number]
  x: (station: number) => number
  joints: readonly StripJoint[]
  strip: Strip
  profile: ProfilePoint[]
  chosen: string | null
}>()

const H = 336
const lanes = { delivered: 30, joints: 84, embedment: 150, test: 190 }
const inView = computed(() => within(props.joints, props.view[0], props.view[1]))
const spacing = computed(() => (props.width - props.left) / Math.max(1, inView.value.length))
/** wide enough to draw each joint as its own glyph */
const single = computed(() => spacing.value > 13)
const runs = computed(() => (single.value ? [] : runsOf(inView.value, props.x)))
const pointed = computed(() => (props.chosen ? inView.value.find((j) => j.id === props.chosen) : undefined))
/** where flags would stand on each other, one is enough */
const flagged = computed(() => {
  let last = -Infinity
  return inView.value.filter((j) => {
    if (!j.ncr || props.x(j.station) - last < 6) return false
    last = props.x(j.station)
    return true
  })
})
const delivered = computed(() => {
  const first = inView.value.find((j) => j.delivered)
  const last = inView.value.findLast((j) => j.delivered)
  return first && last
    ? {
        from: Math.max(props.left, props.x(first.station) - 4),
        to: Math.min(props.width - 12, props.x(last.station) + 4),
      }
    : null
})
const clip = (from: number, to: number) => {
  const a = Math.max(props.left, props.x(from))
  const b = Math.min(props.width - 12, props.x(to))
  return b > a ? { x: a, width: b - a } : null
}
const reachColour: Record<string, string> = {
  accepted: stateColour.accepted,
  rejected: stateColour.rejected,
  'too-close': stateColour['too-close'],
  'in-work': stateColour['in-work'],
  'not-started': 'none',
}
const reaches = computed(() =>
  props.strip.reaches.map((r) => ({ ...r, box: clip(r.from, r.to) })).filter((r) => r.box),
)
const packs = computed(() =>
  props.strip.packs.map((p) => ({ ...p, box: clip(p.from, p.to) })).filter((p) => p.box),
)
const ground = computed(() => {
  if (props.profile.length < 2) return null
  const points = [
    { station: props.view[0], elevation: elevationAt(props.profile, props.view[0]) },
    ...props.profile.filter((p) => p.station > props.view[0] && p.station < props.view[1]),
    { station: props.view[1], elevation: elevationAt(props.profile, props.view[1]) },
  ]
  const low = Math.min(...points.map((p) => p.elevation))
  const high = Math.max(low + 1, ...points.map((p) => p.elevation))
  const y = (z: number) => 308 - ((z - low) / (high - low)) * 68
  return {
    path: points.map((p) => `${props.x(p.station)},${y(p.elevation)}`).join(' '),
    low,
    high,
    lowY: y(low),
    highY: y(high),
  }
})
const ticks = computed(() => siteTicks(props.view[0], props.view[1], 10))
</script>

<template>
  <svg
    :width="width"
    :height="H"
    role="img"
    :aria-label="`${inView.length} joints from station ${showStretch(view[0], view[1])}; the table below reads the same`"
  >
    <g class="lane-names">
      <text x="14" :y="lanes.delivered + 5">Delivered</text>
      <text x="14" :y="lanes.joints + 5">Joints</text>
      <text x="14" :y="lanes.embedment + 5">Embedment</text>
      <text x="14" :y="lanes.test + 5">Test</text>
      <text x="14" y="270">Profile</text>
    </g>
    <rect
      v-if="delivered"
      :x="delivered.from"
      :y="lanes.delivered - 3"
      :width="delivered.to - delivered.from"
      height="6"
      fill="var(--accepted)"
    />
    <line
      :x1="left"
      :x2="width - 12"
      :y1="lanes.joints"
      :y2="lanes.joints"
      stroke="var(--hair)"
      stroke-width="3"
    />
    <g v-for="run in runs" :key="run.x">
      <rect
        v-if="run.state === 'accepted'"
        :x="run.x"
        :y="lanes.joints - 6"
        :width="run.width"
        height="12"
        :fill="stateColour.accepted"
      />
      <rect
        v-else-if="run.state === 'not-started'"
        :x="run.x"
        :y="lanes.joints - 6"
        :width="Math.max(2, run.width - 1)"
        height="12"
        fill="none"
        :stroke="stateColour['not-started']"
      />
      <rect
        v-else
        :x="run.x - 1"
        :y="lanes.joints - 19"
        :width="Math.max(4, run.width)"
        height="38"
        :fill="stateColour[run.state]"
      />
    </g>
    <g
      v-for="j in single ? inView : []"
      :key="j.id"
      :transform="`translate(${x(j.station)} ${lanes.joints})`"
    >
      <rect
        v-if="j.id === chosen"
        x="-17"
        y="-24"
        width="34"
        height="48"
        fill="none"
        stroke="var(--ink)"
        stroke-width="2.5"
      />
      <g transform="translate(-13 -8.7) scale(.54)" :style="{ color: stateColour[j.state] }">
        <GlyphShape :state="j.state" />
      </g>
      <text v-if="spacing > 52" y="32" text-anchor="middle" class="joint-name">{{ j.number }}</text>
      <path
        v-if="j.ncr"
        d="M0 -20v-12h11l-3 4 3 4h-8"
        fill="var(--rejected)"
        stroke="var(--rejected)"
        stroke-width="1.5"
      />
    </g>
    <template v-if="!single">
      <path
        v-for="j in flagged"
        :key="j.id"
        :d="`M${x(j.station)} ${lanes.joints - 20}v-14h11l-3 4 3 4h-8`"
        fill="var(--rejected)"
        stroke="var(--rejected)"
        stroke-width="1.5"
      />
    </template>
    <path
      v-if="!single && pointed"
      :d="`M${x(pointed.station)} ${lanes.joints + 22}l-7 12h14z`"
      fill="var(--ink)"
    />
    <g v-for="r in reaches" :key="r.id">
      <rect
        :x="r.box!.x + 0.5"
        :y="lanes.embedment - 8"
        :width="Math.max(1, r.box!.width - 1)"
        height="16"
        :fill="r.state === 'in-work' ? 'none' : reachColour[r.state]"
        :stroke="
          r.state === 'not-started' ? 'var(--idle)' : r.state === 'in-work' ? reachColour[r.state] : 'none'
        "
      >
        <title>{{ r.name }}</title>
      </rect>
      <!-- Of a reach at work the bar stands as high as its trench is filled. -->
      <rect
        v-if="r.state === 'in-work' && r.filled !== null"
        :x="r.box!.x + 0.5"
        :y="lanes.embedment + 8 - 16 * r.filled"
        :width="Math.max(1, r.box!.width - 1)"
        :height="16 * r.filled"
        :fill="reachColour[r.state]"
      />
    </g>
    <g v-for="p in packs" :key="p.id" :style="{ color: stateColour[packStateGlyphs[p.state]!] }">
      <path
        :d="`M${p.box!.x + 1} ${lanes.test - 7}v14M${p.box!.x + 1} ${lanes.test}H${p.box!.x + p.box!.width - 1}m0 -7v14`"
        stroke="currentColor"
        :stroke-width="p.state === 'planned' ? 1.5 : 3"
        fill="none"
      />
      <text
        v-if="p.box!.width > 90"
        :x="p.box!.x + p.box!.width / 2"
        :y="lanes.test + 21"
        text-anchor="middle"
        class="pack"
      >
        {{ p.number }} {{ packStateWords[p.state] }}
      </text>
    </g>
    <template v-if="ground">
      <polyline :points="ground.path" fill="none" stroke="var(--ink)" stroke-width="1.5" />
      <text :x="left - 8" :y="ground.highY + 4" text-anchor="end" class="tick">
        {{ showMetres(ground.high, 1) }}
      </text>
      <text :x="left - 8" :y="ground.lowY + 4" text-anchor="end" class="tick">
        {{ showMetres(ground.low, 1) }}
      </text>
    </template>
    <text v-else :x="left" y="270" class="tick">not known</text>
    <g v-for="t in ticks" :key="t.at">
      <line :x1="x(t.at)" :x2="x(t.at)" y1="314" y2="320" stroke="var(--muted)" />
      <text :x="x(t.at)" y="333" text-anchor="middle" class="tick">{{ t.text }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  user-select: none;
}
text {
  fill: var(--ink);
  font-size: 14px;
}
.lane-names text {
  fill: var(--muted);
}
.tick {
  font-size: 13px;
  fill: var(--muted);
}
.pack {
  fill: currentColor;
  font-weight: 600;
}
.joint-name {
  font-size: 13px;
}
</style>
