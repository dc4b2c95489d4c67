<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * Bell and spigot in section, drawn apart: where the seal sits, which way it faces, and which faces get
 * lubricant. Faces to lubricate are drawn in the lubricant's colour and named; faces to keep dry say so.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, word, tappable, strong } = useDrawn(props)
const W = 404
const H = 330
/** the joint is shown from the wall to the axis, above and below */
const scale = computed(() => 118 / Math.max(0.05, num('depth') ?? 0.1))
const px = (m: number) => m * scale.value
const depth = computed(() => px(num('depth') ?? 0.1))
const pitch = computed(() => (num('pitch') ? Math.max(18, px(num('pitch')!)) : null))
const faces = computed(() => word('lubricate').split(' ').filter(Boolean))
const wet = (...names: string[]) => names.some((n) => faces.value.includes(n))
const seal = computed(() => word('seal'))
const top = 92
const wall = 26
const mouth = computed(() => W - 20 - depth.value)
const tip = computed(() => mouth.value - 34)
/** how far behind the tip the seal sits, and how high above the spigot's face */
const place = computed(() => {
  const p = pitch.value ?? 26
  return ({ valley: { back: p * 1.0, up: 0 }, crown: { back: p * 0.5, up: -9 }, step: { back: 44, up: 0 }, groove: { back: 30, up: 5 }, spigot: { back: p, up: -2 }, factory: { back: 30, up: 0 } } as Record<string, { back: number; up: number }>)[seal.value] ?? { back: 30, up: 0 }
})
const inBell = computed(() => seal.value === 'bell')
const spigotWall = computed(() => {
  const y = top + 12
  if (!pitch.value) {
    if (seal.value === 'step') return `M-4 ${y - 8}H${tip.value - 52}V${y}H${tip.value}V${y + wall}H-4Z`
    if (seal.value === 'groove') return `M-4 ${y}H${tip.value - 42}V${y + 8}H${tip.value - 18}V${y}H${tip.value}V${y + wall}H-4Z`
    return `M-4 ${y}H${tip.value}V${y + wall}H-4Z`
  }
  let d = `M${tip.value} ${y + wall}`
  for (let x = tip.value, i = 0; x > -10; x -= pitch.value / 2, i++) d += `L${x} ${i % 2 ? y : y + 12}L${x - pitch.value / 2} ${i % 2 ? y : y + 12}`
  return `${d}L-10 ${y + wall}Z`
})
const names = computed(() => (faces.value.length === 0 ? 'No lubricant: all faces dry' : `Lubricate: ${faces.value.join(', ')}`))
const [onGasket, onMark, onDepth] = [strong('gasket'), strong('mark'), strong('depth', 'gap')]
const mark = computed(() => num('mark'))
const sealX = computed(() => (inBell.value ? mouth.value + 26 : tip.value - place.value.back))
const sealY = computed(() => (inBell.value ? top - 2 : top + 5 + place.value.up))
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="drawing" role="img" :aria-label="`${names}. Seal: ${seal}.`">
    <!-- bell above, spigot in it, both cut open -->
    <path class="fitting" :d="`M${mouth} ${top - wall - 6}H${W}V${top + wall + 16}H${mouth + depth}V${top - 6}H${mouth + 10}L${mouth} ${top - 12}Z`" />
    <path class="body" :d="spigotWall" />
    <path v-if="wet('bell', 'socket')" class="lube" :d="`M${mouth + 2} ${top - 11}L${mouth + 11} ${top - 3}H${mouth + depth}`" />
    <path v-if="wet('spigot')" class="lube" :d="`M${tip - depth} ${top + 10}H${tip - 4}`" />
    <path v-if="wet('groove')" class="lube" :d="`M${tip - 42} ${top + 18}H${tip - 18}`" />
    <g :class="{ strong: onGasket }">
      <path v-if="seal === 'step'" class="seal" :class="{ lubricated: wet('gasket', 'ring', 'seal') }" :d="`M${sealX - 6} ${sealY + 8}l4 -15l10 -2l12 17z`" />
      <circle v-else class="seal" :class="{ lubricated: wet('gasket', 'ring', 'seal') }" :cx="sealX" :cy="sealY" r="9" />
      <circle v-if="onGasket" :cx="sealX + 4" :cy="sealY" r="20" fill="none" stroke="var(--line)" stroke-width="3" />
    </g>
    <text :x="sealX - 14" :y="sealY - 22" text-anchor="end" class="name">seal{{ seal === 'valley' ? ' in the valley' : seal === 'crown' ? ' over the crown' : seal === 'groove' ? ' in its groove' : seal === 'step' ? ' against the step' : seal === 'bell' ? '' : '' }}</text>
    <text v-if="inBell" :x="sealX + 16" :y="top - wall - 14" class="name">heel in its groove</text>
    <line v-if="mark !== null" :x1="tip - px(mark)" :x2="tip - px(mark)" :y1="top - 18" :y2="top + wall + 24" :stroke="onMark ? 'var(--line)' : 'var(--ink)'" :stroke-width="onMark ? 4 : 2.5" />
    <DrawnDimension v-if="mark !== null" :x1="tip - px(mark)" :x2="tip" :y="top + wall + 46" :label="`mark ${mm(mark)}`" :strong="onMark" :tap="tappable('mark')" @tap="$emit('tap', 'mark')" />
    <DrawnDimension :x1="mouth" :x2="mouth + depth" :y="34" :from="top - wall" :label="`bell ${mm(num('depth'))}`" :strong="onDepth" :tap="tappable('depth')" @tap="$emit('tap', 'depth')" />
    <!-- the two faces again, named, so that nobody has to guess -->
    <g :transform="`translate(0 ${top + wall + 92})`">
      <g v-for="(row, i) in [{ name: 'Inside of the bell', on: wet('bell', 'socket') }, { name: 'Outside of the spigot', on: wet('spigot') }, { name: 'The seal', on: wet('gasket', 'ring', 'seal') }]" :key="row.name" :transform="`translate(8 ${i * 30})`">
        <rect width="34" height="18" :fill="row.on ? 'var(--lube)' : 'var(--card)'" stroke="var(--ink)" />
        <path v-if="row.on" d="M4 14l8 -10M14 14l8 -10M24 14l8 -10" stroke="var(--ink)" stroke-width="1.5" />
        <text x="46" y="15">{{ row.name }}: {{ row.on ? 'lubricate' : 'keep dry' }}</text>
      </g>
    </g>
    <text v-if="readings?.length" :x="W - 6" :y="H - 24" text-anchor="end" class="sum" :class="{ tap: tappable('readings') }" @click="$emit('tap', 'readings')">gap {{ readings.map((r) => mm(r)).join(' / ') }}</text>
    <text :x="W - 4" :y="H - 4" text-anchor="end" class="name">section; lengths to scale, ⌀ {{ mm(num('od')) }} mm</text>
  </svg>
</template>
