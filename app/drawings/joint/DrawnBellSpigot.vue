<script setup lang="ts">
import { useDrawn, type DrawnEmits, type DrawnProps } from '../useDrawn'

/**
 * Bell and spigot in section, drawn apart: where the seal sits, which way it faces, and which faces get
 * lubricant. Faces to lubricate are drawn in the lubricant's colour and named; faces to keep dry say so.
 */
const props = defineProps<DrawnProps>()
defineEmits<DrawnEmits>()
const { num, mm, word, tappable, strong, len } = useDrawn(props)
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
/** height of the spigot's outer face; the bell's inner face lies a seal's height above it */
const face = 112
const inner = face - 20
const wall = 38
const bore = face + wall
const mouth = computed(() => W - 66 - depth.value)
const tip = computed(() => mouth.value - 30)
/** how far behind the tip the seal sits, and how high above the spigot's face */
const place = computed(() => {
  const p = pitch.value ?? 30
  return (
    (
      {
        valley: { back: p * 1.5, up: 4 },
        crown: { back: p, up: -11 },
        step: { back: 52, up: 0 },
        groove: { back: 34, up: 2 },
        spigot: { back: p * 1.5, up: 0 },
        factory: { back: 36, up: -7 },
      } as Record<string, { back: number; up: number }>
    )[seal.value] ?? { back: 34, up: -6 }
  )
})
const inBell = computed(() => seal.value === 'bell')
const spigotWall = computed(() => {
  if (!pitch.value) {
    if (seal.value === 'step')
      return `M-4 ${face - 12}H${tip.value - 56}V${face}H${tip.value - 5}L${tip.value} ${face + 5}V${bore}H-4Z`
    if (seal.value === 'groove')
      return `M-4 ${face}H${tip.value - 50}V${face + 13}H${tip.value - 18}V${face}H${tip.value - 5}L${tip.value} ${face + 5}V${bore}H-4Z`
    return `M-4 ${face}H${tip.value - 5}L${tip.value} ${face + 5}V${bore}H-4Z`
  }
  // crests and valleys from the end backward, the first crest at the end
  let d = `M${tip.value} ${bore}`
  const half = pitch.value / 2
  for (let x = tip.value, i = 0; x > -half; x -= half, i++) {
    const y = i % 2 ? face + 16 : face
    d += `L${x - 3} ${y}L${x - half + 3} ${y}`
  }
  return `${d}L-10 ${bore}Z`
})
const bellWall = computed(
  () =>
    `M${mouth.value} ${inner - 40}H${mouth.value + depth.value + 8}L` +
    `${mouth.value + depth.value + 34} ${face}H${W + 4}V${bore}H` +
    `${mouth.value + depth.value}V${inner}H${mouth.value + 12}L${mouth.value} ` +
    `${inner - 9}Z`,
)
const names = computed(() =>
  faces.value.length === 0 ? 'No lubricant: all faces dry' : `Lubricate: ${faces.value.join(', ')}`,
)
const [onGasket, onMark, onDepth] = [strong('gasket'), strong('mark'), strong('depth', 'gap')]
const mark = computed(() => num('mark'))
const sealX = computed(() => (inBell.value ? mouth.value + 34 : tip.value - place.value.back))
const sealY = computed(() => (inBell.value ? inner + 4 : face + place.value.up))
const sealNames: Record<string, string> = {
  valley: 'seal in the valley',
  crown: 'seal over the crown',
  groove: 'ring in its groove',
  step: 'seal against the step',
  spigot: 'seal on the spigot',
  factory: 'seal fitted at the works',
  bell: 'heel in its groove',
}
const rows = computed(() => [
  { name: 'Inside of the bell', on: wet('bell', 'socket') },
  { name: 'Outside of the spigot', on: wet('spigot') },
  { name: 'The seal', on: wet('gasket', 'ring', 'seal') },
  ...(seal.value === 'groove' ? [{ name: 'The groove', on: wet('groove') }] : []),
])
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" class="drawing" role="group" :aria-label="`${names}. Seal: ${seal}.`">
    <!-- upper wall of both, cut open and drawn apart -->
    <path class="fitting" :d="bellWall" opacity="0.86" />
    <path class="body" :d="spigotWall" />
    <line class="centre" x1="0" :x2="W" :y1="bore + 16" :y2="bore + 16" />
    <path
      v-if="wet('bell', 'socket')"
      class="lube"
      :d="`M${mouth + 2} ${inner - 5}L${mouth + 13} ${inner + 3}H${mouth + depth}`"
    />
    <path v-if="wet('spigot')" class="lube" :d="`M${Math.max(0, tip - depth)} ${face - 3}H${tip - 5}`" />
    <path v-if="wet('groove')" class="lube" :d="`M${tip - 50} ${face + 10}H${tip - 18}`" />
    <path
      v-if="seal === 'step'"
      class="seal"
      :class="{ lubricated: wet('gasket', 'ring', 'seal') }"
      :d="`M${tip - 54} ${face}v-12l14 -10l8 4l16 18z`"
    />
    <circle
      v-else
      class="seal"
      :class="{ lubricated: wet('gasket', 'ring', 'seal') }"
      :cx="sealX"
      :cy="sealY"
      :r="seal === 'factory' ? 7 : 11"
    />
    <circle
      v-if="onGasket"
      :cx="seal === 'step' ? tip - 38 : sealX"
      :cy="seal === 'step' ? face - 9 : sealY"
      r="26"
      fill="none"
      stroke="var(--line)"
      stroke-width="3"
    />
    <text v-if="!inBell" x="6" y="52" class="name">{{ sealNames[seal] ?? 'seal' }}</text>
    <text v-else x="6" y="52" class="name">seal: {{ sealNames[seal] }}</text>
    <line
      v-if="mark !== null"
      :x1="tip - px(mark)"
      :x2="tip - px(mark)"
      :y1="face - 26"
      :y2="bore + 8"
      :stroke="onMark ? 'var(--line)' : 'var(--ink)'"
      :stroke-width="onMark ? 4 : 2.5"
    />
    <DrawnDimension
      v-if="mark !== null"
      :x1="tip - px(mark)"
      :x2="tip"
      :y="bore + 48"
      :from="bore"
      :label="`mark ${mm(mark)}`"
      :strong="onMark"
      :tap="tappable('mark')"
      @tap="$emit('tap', 'mark')"
    />
    <DrawnDimension
      :x1="mouth"
      :x2="mouth + depth"
      :y="30"
      :from="inner - 40"
      :label="`bell ${mm(num('depth'))}`"
      :strong="onDepth"
      :tap="tappable('depth')"
      @tap="$emit('tap', 'depth')"
    />
    <!-- the faces again, named, so that nobody has to guess -->
    <g :transform="`translate(0 ${H - 22 - rows.length * 29})`">
      <g v-for="(row, i) in rows" :key="row.name" :transform="`translate(6 ${i * 29})`">
        <rect width="34" height="18" :fill="row.on ? 'var(--lube)' : 'var(--card)'" stroke="var(--ink)" />
        <path v-if="row.on" d="M4 14l8 -10M14 14l8 -10M24 14l8 -10" stroke="var(--ink)" stroke-width="1.5" />
        <text x="46" y="15">{{ row.name }}: {{ row.on ? 'lubricate' : 'keep dry' }}</text>
      </g>
    </g>
    <text
      v-if="readings?.length"
      :x="W - 6"
      :y="bore + 56"
      text-anchor="end"
      class="sum"
      :class="{ tap: tappable('readings') }"
      @click="$emit('tap', 'readings')"
    >
      gap {{ readings.map((r) => mm(r)).join(' / ') }}
    </text>
    <text :x="W - 4" :y="H - 4" text-anchor="end" class="name">
      section, ⌀ {{ len(num('od')) }}; bell and marks to scale
    </text>
  </svg>
</template>
