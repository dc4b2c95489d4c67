<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * How much of a mark shows beside the fitting, as three pictures to choose from, and where the marks go
 * on the pipe.
 */
const props = defineProps<DrawnProps>()
const emit = defineEmits<DrawnEmits>()
const { num, mm, tappable, strong, len } = useDrawn(props)
const W = 404
const [onInstall, onInspect] = [strong('install'), strong('inspect')]
const install = computed(() => num('install') ?? 0.02)
const inspect = computed(() => num('inspect') ?? 0.03)
const od = computed(() => num('od') ?? 0.03)
const scale = computed(() => Math.min(230 / (inspect.value * 1.4), 84 / od.value))
const px = (m: number) => m * scale.value
const end = 300
const axis = 84
/** where the edge of the fitting stands over a mark 12 wide */
const pictures = [
  { key: 'visible', title: 'Fully visible', edge: 74 },
  { key: 'partly', title: 'Partly covered', edge: 62 },
  { key: 'covered', title: 'Covered', edge: 46 },
]
</script>

<template>
  <svg
    :viewBox="`0 0 ${W} 330`"
    class="drawing"
    role="group"
    :aria-label="`Install mark at ${len(install)}, inspection mark at ${len(inspect)}`"
  >
    <rect class="body" x="-4" :y="axis - px(od) / 2" :width="end + 4" :height="px(od)" />
    <line
      :x1="end - px(install)"
      :x2="end - px(install)"
      :y1="axis - px(od) / 2"
      :y2="axis + px(od) / 2"
      :stroke="onInstall ? 'var(--line)' : 'var(--ink)'"
      stroke-width="6"
    />
    <line
      :x1="end - px(inspect)"
      :x2="end - px(inspect)"
      :y1="axis - px(od) / 2"
      :y2="axis + px(od) / 2"
      :stroke="onInspect ? 'var(--line)' : 'var(--ink)'"
      stroke-width="6"
      stroke-dasharray="7 4"
    />
    <DrawnDimension
      :x1="end - px(install)"
      :x2="end"
      :y="axis + px(od) / 2 + 38"
      :from="axis + px(od) / 2"
      :label="`install ${mm(install)}`"
      place="right"
      :strong="onInstall"
      :tap="tappable('install')"
      @tap="$emit('tap', 'install')"
    />
    <DrawnDimension
      :x1="end - px(inspect)"
      :x2="end"
      :y="26"
      :from="axis - px(od) / 2"
      :label="`inspect ${mm(inspect)}`"
      :strong="onInspect"
      :tap="tappable('inspect')"
      @tap="$emit('tap', 'inspect')"
    />
    <text x="6" :y="axis + 5" class="name">⌀ {{ mm(od) }}</text>
    <g
      v-for="(p, i) in pictures"
      :key="p.key"
      :transform="`translate(${8 + i * 132} 194)`"
      class="tap"
      role="button"
      tabindex="0"
      :aria-label="`${p.title}: choose`"
      @click="emit('choose', p.key)"
      @keydown.enter.stop.prevent="emit('choose', p.key)"
    >
      <rect class="target" width="124" height="116" rx="4" stroke="var(--hair)" stroke-width="1.5" />
      <rect class="body" x="4" y="26" width="116" height="46" />
      <rect x="52" y="26" width="12" height="46" :fill="onInspect ? 'var(--line)' : 'var(--ink)'" />
      <rect class="fitting" :x="p.edge" y="18" :width="120 - p.edge" height="62" />
      <text x="62" y="104" text-anchor="middle">{{ p.title }}</text>
    </g>
  </svg>
</template>
