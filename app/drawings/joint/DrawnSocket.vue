<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/** A socket joint to scale: two pipes in their coupler, with the marks worked out for them. */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const H = 330
const mid = W / 2
const axis = 148
const od = computed(() => num('od') ?? 0.1)
const width = computed(() => num('width') ?? 0.1)
const stab = computed(() => num('stab'))
const scrape = computed(() => num('scrape'))
const reach = computed(() => Math.max(width.value / 2, scrape.value ?? 0) * 1.3 + 0.01)
const scale = computed(() => Math.min((W - 24) / (2 * reach.value), (H - 150) / (od.value * 1.14)))
const px = (m: number) => m * scale.value
const half = computed(() => px(width.value / 2))
const radius = computed(() => px(od.value / 2))
const shell = computed(() => Math.max(7, px(num('wall') ?? 0.01) * 0.9))
/** Where the ends stand: measured mark-to-edge moves each pipe out of its place. */
const ends = computed(() => {
  const [a = 0, b = 0] = props.readings ?? []
  const inner = (stab.value ?? width.value / 2) - width.value / 2
  return { left: mid + px(inner - a), right: mid - px(inner - b) }
})
const sides = computed(() => [
  { key: 'left', end: ends.value.left, sign: -1 },
  { key: 'right', end: ends.value.right, sign: 1 },
])
const base = computed(() => axis + radius.value + shell.value)
const [onStab, onScrape] = [strong('stab'), strong('scrape')]
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} ${H}`"
    class="drawing"
    role="group"
    :aria-label="
      `Coupler ${len(width)} wide on pipe ${len(od)}` +
      `${stab ? `, stab mark at ${len(stab)}` : ''}` +
      `${scrape ? `, scraped to ${len(scrape)}` : ''}`
    "
  >
    <defs>
      <pattern id="peeled" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--card)" />
        <rect width="1.6" height="5" fill="var(--muted)" />
      </pattern>
    </defs>
    <g v-for="s in sides" :key="s.key">
      <rect
        class="body"
        :x="s.sign < 0 ? -4 : s.end"
        :y="axis - radius"
        :width="s.sign < 0 ? s.end + 4 : W - s.end + 4"
        :height="2 * radius"
      />
      <rect
        v-if="scrape"
        :x="s.sign < 0 ? s.end - px(scrape) : s.end"
        :y="axis - radius"
        :width="px(scrape)"
        :height="2 * radius"
        fill="url(#peeled)"
        stroke="var(--ink)"
        stroke-width="1"
      />
      <line
        v-if="stab"
        :x1="s.end + s.sign * px(stab)"
        :x2="s.end + s.sign * px(stab)"
        :y1="axis - radius - shell - 12"
        :y2="axis + radius"
        :stroke="onStab ? 'var(--line)' : 'var(--ink)'"
        :stroke-width="onStab ? 4 : 2.5"
      />
    </g>
    <rect class="fitting" :x="mid - half" :y="axis - radius - shell" :width="2 * half" :height="shell" />
    <rect class="fitting" :x="mid - half" :y="axis + radius" :width="2 * half" :height="shell" />
    <rect
      class="fitting"
      :x="mid - half"
      :y="axis - radius"
      :width="2 * half"
      :height="2 * radius"
      opacity="0.1"
    />
    <line class="centre" x1="0" :x2="W" :y1="axis" :y2="axis" />
    <DrawnDimension
      :x1="mid - half"
      :x2="mid + half"
      :y="22"
      :from="axis - radius - shell"
      :label="mm(width)"
    />
    <DrawnDimension
      v-if="stab"
      :x1="ends.left - px(stab)"
      :x2="ends.left"
      :y="base + 26"
      :from="axis"
      :label="`stab ${mm(stab)}`"
      place="left"
      :strong="onStab"
      :tap="tappable('stab')"
      @tap="$emit('tap', 'stab')"
    />
    <DrawnDimension
      v-if="scrape"
      :x1="ends.right"
      :x2="ends.right + px(scrape)"
      :y="base + 60"
      :from="axis"
      :label="`scrape ${mm(scrape)}`"
      place="right"
      :strong="onScrape"
      :tap="tappable('scrape')"
      @tap="$emit('tap', 'scrape')"
    />
    <text x="6" :y="axis - radius + 20" class="name">⌀ {{ mm(od) }}</text>
    <text :x="W - 4" :y="H - 4" text-anchor="end" class="name">{{ unitShown('mm') }}, to scale</text>
  </svg>
</template>
