<script setup lang="ts">
import { showDuration, showLeft } from '#core/quantity/show'
import { checkOf, type CheckEmits, type CheckForm, type CheckProps } from './form'

/** A running clock, and what a person does when it has run. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const times = useTimes()
const action = computed(() => checkOf<'clock'>(props.step).action)
const answered = computed(() => props.judged.entry !== null)
const left = computed(() => (props.judged.until === null ? null : (props.judged.until - props.now) / 1000))
const running = computed(() => left.value !== null && left.value > 0)
const say = (answer: 'yes' | 'no') => emit('answer', [{ kind: 'clock', payload: { answer } }])
defineExpose<CheckForm>({ say })
</script>

<template>
  <div class="part">
    <template v-if="judged.startedAt !== null && !answered">
      <p v-if="running" class="count" role="timer">
        <span class="big-number">{{ showLeft(left!) }}</span>
        <span class="muted">left, until {{ times.moment(judged.until!) }}</span>
      </p>
      <p v-else-if="action" class="question">{{ action }}?</p>
    </template>
    <div v-if="action && judged.startedAt !== null && judged.state !== 'accepted'" class="row wrap">
      <ElButton
        size="large"
        :type="running ? 'default' : 'primary'"
        class="big"
        :loading="busy"
        @click="say('yes')"
        >{{ action }}</ElButton
      >
      <ElButton size="large" class="big" :disabled="busy" @click="say('no')">It failed</ElButton>
    </div>
    <p v-if="running && action" class="muted small">
      Recorded now it would be {{ showDuration(left!) }} too early, and rejected.
    </p>
  </div>
</template>

<style scoped>
.count {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 12px;
}
.big-number {
  font-size: 2.75rem;
  font-weight: 650;
  color: var(--waiting);
  white-space: nowrap;
}
</style>
