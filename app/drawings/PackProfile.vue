<script setup lang="ts">
import { computed, ref } from 'vue'
import { useElementSize } from '@vueuse/core'
import type { ProfilePoint } from '#core/pressure/pack'
import { profileBetween } from '#core/pressure/pack'

/** Test packs laid on the line's profile. */
interface Laid {
  id: string
  number: string
  from: number
  to: number
  state: string
}
const props = defineProps<{ profile: ProfilePoint[]; from: number; to: number; packs: Laid[] }>()
const emit = defineEmits<{ choose: [string] }>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const H = 170
const low = computed(() => Math.min(...props.profile.map((p) => p.elevation)))
const high = computed(() => Math.max(low.value + 1, ...props.profile.map((p) => p.elevation)))
const x = (s: number) => 12 + ((s - props.from) / (props.to - props.from)) * (width.value - 24)
const y = (z: number) => H - 34 - ((z - low.value) / (high.value - low.value)) * (H - 74)
const colours: Record<string, string> = {
  signed: 'var(--accepted)',
  evaluated: 'var(--line)',
  failed: 'var(--rejected)',
  running: 'var(--waiting)',
  planned: 'var(--idle)',
}
const area = (p: Laid) => {
  const points = profileBetween(props.profile, p.from, p.to)
  return `M${x(p.from)} ${H - 12}${points.map((q) => `L${x(q.station)} ${y(q.elevation)}`).join('')}L${x(p.to)} ${H - 12}Z`
}
</script>

<template>
  <div ref="box">
    <svg v-if="width > 0" :width="width" :height="H" role="img" aria-label="Test packs on the profile">
      <g v-for="p in packs" :key="p.id" class="pack" @click="emit('choose', p.id)">
        <path :d="area(p)" :fill="colours[p.state]" opacity="0.16" />
        <path
          :d="`M${x(p.from)} 24V${H - 12}M${x(p.to)} 24V${H - 12}`"
          :stroke="colours[p.state]"
          stroke-width="1.5"
        />
        <text
          v-if="x(p.to) - x(p.from) > 46"
          :x="(x(p.from) + x(p.to)) / 2"
          y="34"
          text-anchor="middle"
          :fill="colours[p.state]"
        >
          {{ p.number }}
        </text>
      </g>
      <polyline
        :points="profile.map((p) => `${x(p.station)},${y(p.elevation)}`).join(' ')"
        fill="none"
        stroke="var(--ink)"
        stroke-width="2"
      />
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
text {
  font-size: 15px;
  font-weight: 650;
}
.pack {
  cursor: pointer;
}
</style>
