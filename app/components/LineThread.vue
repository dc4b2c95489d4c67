<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { StripJoint } from '~/stores/strip'
import { runsOf, stateColour } from '~/drawings/strip-runs'

/**
 * The whole line as one thread: solid where accepted, open where not begun, coloured where something
 * stands.
 */
const props = defineProps<{ joints: StripJoint[]; from: number; to: number; station: number | null }>()
const box = ref<HTMLElement | null>(null)
const { width } = useElementSize(box)
const x = (station: number) =>
  6 + ((station - props.from) / (props.to - props.from)) * Math.max(0, width.value - 12)
const runs = computed(() => runsOf(props.joints, x))
</script>

<template>
  <div ref="box" class="thread">
    <svg v-if="width > 0" :width="width" height="56" aria-hidden="true">
      <line :x1="x(from)" :x2="x(to)" y1="30" y2="30" stroke="var(--hair)" stroke-width="2" />
      <template v-for="run in runs" :key="run.x">
        <rect
          v-if="run.state === 'accepted'"
          :x="run.x - 1"
          y="28"
          :width="run.width + 2"
          height="4"
          :fill="stateColour.accepted"
        />
        <rect
          v-else-if="run.state !== 'not-started'"
          :x="run.x"
          y="19"
          :width="Math.max(3, run.width)"
          height="22"
          :fill="stateColour[run.state]"
        />
      </template>
      <path v-if="station !== null" :d="`M${x(station)} 17l-6 -9h12z`" fill="var(--ink)" />
    </svg>
  </div>
</template>

<style scoped>
.thread {
  width: 100%;
  height: 56px;
}
</style>
