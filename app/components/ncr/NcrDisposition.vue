<script setup lang="ts">
import type { Cause } from '#core/ncr/causes'
import { useSession } from '~/stores/session'
import { causeWords, dispositionWords } from '~/words'

/** What is to happen with what does not conform, why it came to be, and until when. */
const props = defineProps<{ ncr: string }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const disposition = ref('rework')
const cause = ref<Cause | ''>('')
const due = ref('')
const asking = ref(false)
async function dispose(secret: string, reason: string) {
  await api(`${session.base}/ncrs/${props.ncr}/disposition`, {
    body: {
      ...{ disposition: disposition.value, reason, secret },
      ...(cause.value ? { cause: cause.value } : {}),
      ...(due.value ? { due: due.value } : {}),
    },
  })
  emit('done')
}
</script>

<template>
  <h2>Disposition</h2>
  <template v-if="session.can('dispose-ncr')">
    <div class="choices" role="radiogroup" aria-label="Disposition">
      <ElButton
        v-for="(w, d) in dispositionWords"
        :key="d"
        size="large"
        :type="disposition === d ? 'primary' : 'default'"
        role="radio"
        :aria-checked="disposition === d"
        @click="disposition = d"
        >{{ w }}</ElButton
      >
    </div>
    <FormField label="Why was it so?" group
      ><ElSelect v-model="cause" size="large" aria-label="Why was it so?" placeholder="cause">
        <ElOption v-for="(w, c) in causeWords" :key="c" :value="c" :label="w" /></ElSelect
    ></FormField>
    <DayField v-model="due" label="To be done until" />
    <ElButton type="primary" size="large" @click="asking = true"
      >Decide: {{ dispositionWords[disposition] }}</ElButton
    >
    <SecretDialog
      v-model="asking"
      :title="dispositionWords[disposition]!"
      action="Decide"
      reason-label="Reason and what is to be done"
      reason-required
      :send="dispose"
    />
  </template>
  <p v-else class="muted">The engineer decides what happens.</p>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
