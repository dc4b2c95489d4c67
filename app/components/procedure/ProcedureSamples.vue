<script setup lang="ts">
import type { Sample } from '../../../server/services/samples'
import { useSession } from '~/stores/session'

/** Samples of ordinary practice, to be taken in as drafts of this project. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ adopted: [] }>()
const session = useSession()
const { data, problem, load } = useLoad(() => api<Sample[]>(`${session.base}/samples`))
const chosen = ref<string[]>([])
watch(open, (now) => {
  chosen.value = []
  if (now) void load()
})
const groups = computed(() => [...Map.groupBy(data.value ?? [], (s) => s.material)])
const { busy, words, send } = useSending()
async function adopt() {
  if (!(await send(() => api(`${session.base}/samples/adopt`, { body: { keys: chosen.value } })))) return
  open.value = false
  emit('adopted')
}
</script>

<template>
  <DialogForm
    v-model="open"
    title="Adopt samples"
    :action="`Adopt ${chosen.length || ''} as drafts`"
    width="720px"
    :busy="busy"
    :fault="words"
    :ready="chosen.length > 0"
    @send="adopt"
  >
    <p class="muted">
      Samples are ordinary practice, no maker’s word. Each becomes a draft of this project: read it, change
      what your project decides, have it reviewed by another engineer, and issue it.
    </p>
    <Notice v-if="problem" :problem="problem" @again="load" />
    <ElCheckboxGroup v-else v-model="chosen" class="samples" aria-label="Samples">
      <section v-for="[material, list] in groups" :key="material">
        <h3>{{ material }}</h3>
        <ElCheckbox v-for="s in list" :key="s.key" :value="s.key" :disabled="s.adopted">
          {{ s.title }}<span v-if="s.adopted" class="muted"> (in this project)</span>
        </ElCheckbox>
      </section>
    </ElCheckboxGroup>
  </DialogForm>
</template>

<style scoped>
.samples {
  max-height: 52vh;
  overflow-y: auto;
  display: block;
}
section {
  display: flex;
  flex-direction: column;
  padding: 8px 0;
}
h3 {
  margin: 0;
  font-size: var(--s16);
}
h3::first-letter {
  text-transform: uppercase;
}
.el-checkbox {
  min-height: 40px;
  height: auto;
  white-space: normal;
}
</style>
