<script setup lang="ts">
import { mayRespond } from '#core/judgement/duties'
import type { StepJudgement } from '#core/judgement/types'

/**
 * What others want of this step: whether it is drawn to be watched, whether its record was read, and what is
 * asked of whom. What is asked holds the acceptance until it is answered.
 */
const props = defineProps<{
  judged: StepJudgement
  people: Record<string, string>
  me: string
  mayRead: boolean
  mayRecord: boolean
  inspector: boolean
}>()
const emit = defineEmits<{
  read: [kind: 'review' | 'query' | 'watch', payload: Record<string, unknown>]
  respond: [payload: Record<string, unknown>]
}>()
const times = useTimes()
const who = (person: string, at: number) => `${props.people[person] ?? ''}, ${times.moment(at)}`

const asking = ref(false)
const question = reactive({ text: '', to: 'crew' as 'crew' | 'inspector' })
function ask() {
  emit('read', 'query', { text: question.text.trim(), to: question.to })
  Object.assign(question, { text: '' })
  asking.value = false
}
const watching = ref(false)
const note = ref('')
function watched(good: boolean) {
  emit('read', 'watch', { good, ...(note.value.trim() ? { note: note.value.trim() } : {}) })
  note.value = ''
  watching.value = false
}
const answers = reactive<Record<string, string>>({})
const keyOf = (a: StepJudgement['asked'][number]) => `${a.id} ${a.index}`
const mayAnswer = (a: StepJudgement['asked'][number]) =>
  a.answer === null && props.mayRecord && mayRespond(a, props.me, props.inspector ? ['inspector'] : [])
function respond(a: StepJudgement['asked'][number], good?: boolean) {
  const index = a.index === null ? {} : { index: a.index }
  emit('respond', {
    to: a.id,
    ...index,
    ...(good === undefined ? {} : { good }),
    text: answers[keyOf(a)]!.trim(),
  })
  answers[keyOf(a)] = ''
}
const { watch, review } = toRefs(
  reactive({ watch: computed(() => props.judged.watch), review: computed(() => props.judged.review) }),
)
const shows = computed(
  () =>
    props.judged.asked.length > 0 ||
    (props.mayRead && props.judged.state !== 'not-applicable') ||
    watch.value?.watched ||
    review.value?.state === 'reviewed',
)
</script>

<template>
  <section v-if="shows" class="points" aria-label="Read and watched">
    <div v-for="a in judged.asked" :key="keyOf(a)" class="asked" :class="{ open: a.answer === null }">
      <p>
        <span class="muted small"
          >{{ a.kind === 'query' ? 'Query' : 'Condition of the release' }} · {{ who(a.by, a.at)
          }}<template v-if="a.to === 'inspector'"> · to an inspector</template></span
        ><br /><strong>{{ a.text }}</strong>
      </p>
      <p v-if="a.answer" :class="{ fault: !a.answer.good }">
        <template v-if="a.kind === 'condition'">{{ a.answer.good ? 'Met: ' : 'Not met: ' }}</template>{{
          a.answer.text
        }}
        <span class="muted small">{{ who(a.answer.by, a.answer.at) }}</span>
      </p>
      <form v-if="mayAnswer(a)" class="answer" @submit.prevent="a.kind === 'query' && respond(a)">
        <ElInput
          v-model="answers[keyOf(a)]"
          size="large"
          maxlength="400"
          :aria-label="a.kind === 'query' ? 'Answer' : 'What shows it'"
          :placeholder="a.kind === 'query' ? 'Answer' : 'What shows it'"
        />
        <ElButton
          v-if="a.kind === 'query'"
          size="large"
          native-type="submit"
          :disabled="!answers[keyOf(a)]?.trim()"
          >Answer</ElButton
        >
        <template v-else>
          <ElButton size="large" :disabled="!answers[keyOf(a)]?.trim()" @click="respond(a, true)"
            >It is met</ElButton
          >
          <ElButton size="large" :disabled="!answers[keyOf(a)]?.trim()" @click="respond(a, false)"
            >It is not</ElButton
          >
        </template>
      </form>
    </div>

    <p v-if="watch?.watched" class="said">
      {{ watch.watched.good ? 'Watched.' : 'Watched, not as it should be.' }} {{ watch.watched.note }}
      <span class="muted small">{{ who(watch.watched.by, watch.watched.at) }}</span>
    </p>
    <p v-else-if="watch?.drawn && mayRead" class="said drawn"><strong>Drawn to be watched.</strong></p>
    <p v-if="review?.state === 'reviewed'" class="said">
      Read and in order. <span class="muted small">{{ who(review.by!, review.at!) }}</span>
    </p>

    <div v-if="mayRead && judged.state !== 'not-applicable'" class="row wrap">
      <ElButton v-if="review?.state === 'due'" size="large" @click="emit('read', 'review', {})"
        >Read, in order</ElButton
      >
      <ElButton v-if="watch && !watch.watched && !watching" size="large" @click="watching = true"
        >I watch this</ElButton
      >
      <ElButton v-if="!asking" size="large" text @click="asking = true">Ask about it</ElButton>
    </div>
    <form v-if="watching" class="answer" @submit.prevent>
      <ElInput v-model="note" size="large" maxlength="400" placeholder="Note, if any" aria-label="Note" />
      <ElButton size="large" @click="watched(true)">As it should be</ElButton>
      <ElButton size="large" :disabled="!note.trim()" @click="watched(false)">Not so</ElButton>
    </form>
    <form v-if="asking" class="answer" @submit.prevent="ask">
      <ElInput
        v-model="question.text"
        size="large"
        maxlength="400"
        placeholder="What is the question?"
        aria-label="Question"
      />
      <ElRadioGroup v-model="question.to" size="large" aria-label="Asked of">
        <ElRadioButton value="crew">The crew</ElRadioButton>
        <ElRadioButton value="inspector">An inspector</ElRadioButton>
      </ElRadioGroup>
      <ElButton size="large" type="primary" native-type="submit" :disabled="!question.text.trim()"
        >Ask</ElButton
      >
      <ElButton size="large" text @click="asking = false">Not now</ElButton>
    </form>
  </section>
</template>

<style scoped>
.points {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
p {
  margin: 0;
}
.asked {
  border-left: 4px solid var(--hair);
  padding: 4px 0 4px 14px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.asked.open {
  border-left-color: var(--held);
}
.said.drawn {
  border-left: 4px solid var(--line);
  padding-left: 14px;
}
.answer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.answer .el-input {
  flex: 1 1 220px;
}
</style>
