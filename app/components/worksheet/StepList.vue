<script setup lang="ts">
import type { Judgement } from '#core/judgement/types'
import { atEnd, ends } from '#core/procedure/ends'
import type { Procedure, ProcedureStep } from '#core/procedure/types'
import { endWords, stateWords } from '~/words'

/** Stages and steps with their states; a tap goes to a step. What is made at each end stands side by side. */
const props = defineProps<{ procedure: Procedure; judgement: Judgement; current: string | null }>()
defineEmits<{ choose: [string] }>()
const byKey = computed(() => new Map(props.judgement.steps.map((s) => [s.key, s])))
const state = (key: string) => byKey.value.get(key)!
/** what is asked of a step: its strongest point, and what others want besides */
const points = (key: string) => {
  const { point, beside } = state(key)
  return point === null ? [] : [point, ...beside]
}
const applies = (key: string) => state(key).state !== 'not-applicable'
/** the keys of a step, one an end, in the order of the line */
const keys = (step: ProcedureStep) => ends.map((end) => ({ end, key: atEnd(step.key, end) }))
const spine = ref<HTMLElement | null>(null)
watch(
  () => props.current,
  async () => {
    await nextTick()
    spine.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <nav ref="spine" class="spine" aria-label="Steps">
    <section v-for="stage in procedure.stages" :key="stage.key">
      <h3 v-if="stage.each === 'end'" class="each">
        <span class="title">{{ stage.title }}</span><span
          v-for="end in ends"
          :key="end"
          class="end"
          :title="`${endWords[end]} end`"
          >{{ end === 'upstream' ? 'up' : 'down' }}</span
        >
      </h3>
      <h3 v-else>{{ stage.title }}</h3>
      <template v-for="step in stage.steps" :key="step.key">
        <div
          v-if="stage.each === 'end' && keys(step).some((k) => applies(k.key))"
          class="pair"
          :class="{ here: keys(step).some((k) => k.key === current) }"
        >
          <span class="title"
            >{{ step.title
            }}<span v-for="p in points(keys(step)[0]!.key)" :key="p" class="point">{{ p }}</span></span
          >
          <template v-for="k in keys(step)" :key="k.key">
            <button
              v-if="applies(k.key)"
              type="button"
              class="end"
              :class="{ here: k.key === current }"
              :aria-current="k.key === current ? 'step' : undefined"
              :aria-label="`${step.title}, ${k.end} end: ${stateWords[state(k.key).state]}`"
              @click="$emit('choose', k.key)"
            >
              <StateGlyph :state="state(k.key).state" :size="26" />
            </button>
            <span v-else class="end" aria-hidden="true" />
          </template>
        </div>
        <button
          v-else-if="stage.each !== 'end' && applies(step.key)"
          type="button"
          class="step"
          :class="{ here: step.key === current }"
          :aria-current="step.key === current ? 'step' : undefined"
          :aria-label="`${step.title}: ${stateWords[state(step.key).state]}`"
          @click="$emit('choose', step.key)"
        >
          <StateGlyph :state="state(step.key).state" :size="26" />
          <span class="title">{{ step.title }}</span>
          <span v-for="p in points(step.key)" :key="p" class="point">{{ p }}</span>
        </button>
      </template>
    </section>
  </nav>
</template>

<style scoped>
.spine {
  overflow-y: auto;
  border-right: 1px solid var(--hair);
  background: var(--card);
  padding-bottom: 12px;
}
h3 {
  position: sticky;
  top: 0;
  background: var(--card);
  padding: 12px 16px 4px;
  font-size: var(--s14);
  color: var(--muted);
  z-index: 1;
}
h3.each {
  display: flex;
  padding-right: 4px;
}
h3 .end {
  text-align: center;
}
.step {
  display: flex;
  align-items: center;
  gap: 12px;
  width: 100%;
  min-height: 44px;
  padding: 4px 12px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  font-size: var(--s16);
  cursor: pointer;
}
.step.here,
.pair.here {
  background: var(--wash);
  border-left-color: var(--line);
  font-weight: 650;
}
.pair {
  display: flex;
  align-items: stretch;
  min-height: 44px;
  padding: 0 4px 0 12px;
  border-left: 4px solid transparent;
  font-size: var(--s16);
}
.pair .title {
  align-self: center;
}
.end {
  width: 44px;
  flex: none;
}
button.end {
  display: grid;
  place-items: center;
  padding: 0;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: inherit;
  cursor: pointer;
}
button.end.here {
  border-bottom-color: var(--line);
}
.title {
  flex: 1;
  line-height: 1.2;
}
.point {
  display: inline-block;
  border: 1.5px solid currentColor;
  border-radius: 2px;
  width: 22px;
  text-align: center;
  font-size: var(--s14);
  font-weight: 650;
  color: var(--muted);
}
.pair .point {
  margin-left: 8px;
}
</style>
