<script setup lang="ts">
import { openBefore } from '#core/judgement/release'
import { standing } from '#core/judgement/standing'
import type { Judgement, StepJudgement } from '#core/judgement/types'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { Entry } from '#core/record/entry'
import type { Decision } from '~/composables/useWorksheet'

/** A hold point: its release asked for by the crew, given or refused by whoever may. */
const props = defineProps<{
  compiled: CompiledProcedure
  entries: Entry[]
  judged: StepJudgement
  judgement: Judgement
  people: Record<string, string>
  now: number
  mayRecord: boolean
  mayRelease: boolean
  /** what has to be measured or chosen first is not there yet */
  wanting: boolean
  busy: boolean
}>()
defineEmits<{ request: []; release: [Decision] }>()
const times = useTimes()
/** what is not done before it */
const open = computed(() =>
  openBefore(props.compiled, props.judgement, standing(props.entries), props.judged.key),
)
const openEarlier = computed(() => open.value.filter((k) => k !== props.judged.key))
const titleOf = (key: string) => props.compiled.steps[props.compiled.stepIndex.get(key)!]!.step.title
const released = computed(() => ['released', 'waived'].includes(props.judged.release.state))
const onThisDevice = computed(() =>
  props.entries.some((e) => e.kind === 'release' && e.step === props.judged.key && e.payload.here === true),
)
</script>

<template>
  <div class="hold">
    <template v-if="!released">
      <ElButton
        v-if="mayRecord && !mayRelease && judged.release.state !== 'requested'"
        type="primary"
        size="large"
        class="big"
        :disabled="wanting"
        :loading="busy"
        @click="$emit('request')"
        >Everything is ready: request release</ElButton
      >
      <p v-if="openEarlier.length > 0" class="muted small">
        Still open before it: {{ openEarlier.map(titleOf).join('; ') }}.<template v-if="mayRelease">
          A waiver names them.</template
        >
      </p>
      <p v-if="judged.release.state === 'requested'">
        Requested at {{ times.clock(judged.release.at!) }} by {{ people[judged.release.by!] }},
        {{ times.span(now - judged.release.at!) }} ago.
      </p>
      <slot :open="open.length" />
      <div v-if="mayRelease" class="row wrap">
        <ElButton
          type="primary"
          size="large"
          class="big"
          :disabled="open.length > 0 || judged.release.state !== 'requested'"
          @click="$emit('release', { kind: 'release' })"
          >Release</ElButton
        >
        <ElButton type="danger" plain size="large" class="big" @click="$emit('release', { kind: 'refusal' })"
          >Refuse</ElButton
        >
        <ElButton size="large" @click="$emit('release', { kind: 'waiver', waives: open })">Waive</ElButton>
      </div>
    </template>
    <p v-else class="muted">
      {{ judged.release.state === 'waived' ? 'Waived' : 'Released' }} at
      {{ times.moment(judged.release.at!) }} by {{ people[judged.release.by!]
      }}{{ onThisDevice ? ', on the crew’s device without a signal' : '' }}.
    </p>
  </div>
</template>

<style scoped>
.hold {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: flex-start;
}
</style>
