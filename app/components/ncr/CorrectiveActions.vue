<script setup lang="ts">
import type { CorrectiveAction } from '../../../server/services/ncr-depth'
import { useSession } from '~/stores/session'

/** What is changed so that it does not come again: by whom, until when, and whether it is done. */
const props = defineProps<{
  ncr: string
  actions: readonly CorrectiveAction[]
  people: Record<string, string>
}>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const times = useTimes()
const today = times.today()
const form = reactive({ text: '', owner: '', due: '' })
const { busy, words, send } = useSending('This was not recorded.')
async function post(path: 'action' | 'done', body: Record<string, string>) {
  await api(`${session.base}/ncrs/${props.ncr}/${path}`, { body })
  emit('done')
}
const ask = () =>
  send(async () => {
    await post('action', { ...form })
    Object.assign(form, { text: '', owner: '', due: '' })
  })
const finishing = ref<string | null>(null)
</script>

<template>
  <section class="corrective" aria-label="So that it does not come again">
    <h2>So that it does not come again</h2>
    <div
      v-for="a in actions"
      :key="a.id"
      class="action"
      :class="{ late: a.doneAt === null && a.due < today }"
    >
      <p>
        <strong>{{ a.text }}</strong><br /><span class="muted small"
          >{{ people[a.owner] }},
          {{ a.doneAt === null ? `until ${times.date(a.due)}` : `done ${times.moment(a.doneAt)}` }}</span
        >
      </p>
      <ElButton v-if="a.doneAt === null && session.can('answer-ncr')" size="large" @click="finishing = a.id"
        >It is done</ElButton
      >
    </div>
    <form v-if="session.can('ask-action')" class="new" @submit.prevent="ask">
      <label>What is changed<ElInput v-model="form.text" type="textarea" :rows="2" maxlength="1000" /></label>
      <label
        >By whom<ElSelect
          v-model="form.owner"
          size="large"
          filterable
          aria-label="By whom"
          placeholder="who?"
        >
          <ElOption
            v-for="p in session.overview?.people ?? []"
            :key="p.id"
            :value="p.id"
            :label="p.name" /></ElSelect
      ></label>
      <DayField v-model="form.due" label="Until" />
      <p v-if="words" class="fault" role="alert">{{ words }}</p>
      <ElButton
        size="large"
        native-type="submit"
        :loading="busy"
        :disabled="!form.text.trim() || !form.owner || !form.due"
        >Ask for it</ElButton
      >
    </form>
    <AskDialog
      :model-value="finishing !== null"
      title="It is done"
      label="What was changed?"
      action="Record"
      :send="(text: string) => post('done', { action: finishing!, text })"
      @update:model-value="finishing = null"
    />
  </section>
</template>

<style scoped>
.corrective {
  border-top: 1px solid var(--hair);
  padding-top: 14px;
}
h2 {
  margin-bottom: 10px;
}
.action {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  border-left: 4px solid var(--line);
  padding: 4px 14px;
  margin-bottom: 10px;
}
.late {
  border-left-color: var(--rejected);
}
.new {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
label {
  display: flex;
  flex-direction: column;
  gap: 4px;
  font-size: var(--s14);
  color: var(--muted);
}
</style>
