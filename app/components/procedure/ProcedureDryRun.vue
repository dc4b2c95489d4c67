<script setup lang="ts">
import { exampleFacts, readFact } from '#core/procedure/facts'
import type { CompiledProcedure } from '#core/procedure/compile'
import type { FactValue } from '#core/formula/formula'
import { Problem } from '#core/problem'
import { useDryRun } from '~/composables/useDryRun'

/** A made-up joint: its facts and schools, then the joint sheet itself, with a clock that can be moved on. */
const props = defineProps<{ compiled: CompiledProcedure }>()
const procedure = computed(() => props.compiled.procedure)
const typed = reactive<Record<string, string | boolean>>({})
const schools = reactive<Record<string, string>>({})
const faults = ref<Record<string, string>>({})
const run = shallowRef<ReturnType<typeof useDryRun> | null>(null)
watch(
  procedure,
  (p) => {
    run.value = null
    for (const f of p.facts) typed[f.key] = f.example ?? (f.dimension === 'flag' ? false : '')
    for (const o of p.options) schools[o.key] = o.default
  },
  { immediate: true },
)

function begin() {
  const facts: Record<string, FactValue> = {}
  faults.value = {}
  for (const fact of procedure.value.facts) {
    if (typed[fact.key] === '' && fact.optional) continue
    try {
      facts[fact.key] = readFact(fact, typed[fact.key])
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      faults.value[fact.key] = error.message
    }
  }
  if (Object.keys(faults.value).length === 0) run.value = useDryRun(props.compiled, facts, { ...schools })
}
const scope = getCurrentScope()
/** composables of the run live as long as this view */
const start = () => scope?.run(begin)
const examples = computed(() => {
  try {
    return Object.keys(exampleFacts(procedure.value)).length > 0
  } catch {
    return false
  }
})
const longest = computed(() =>
  Math.max(
    0,
    ...(run.value?.judgement.value?.clocks ?? []).map((c) => (c.until - run.value!.now.value) / 1000),
  ),
)
</script>

<template>
  <div v-if="run" class="run">
    <div class="strip">
      <strong>Dry run.</strong> <span class="muted grow">Nothing is kept, nothing is sent.</span>
      <ElButton :disabled="longest <= 0" @click="run.skip(60)">A minute on</ElButton>
      <ElButton :disabled="longest <= 0" @click="run.skip(longest + 1)">Until the clocks have run</ElButton>
      <ElButton @click="run = null">Other facts</ElButton>
    </div>
    <Worksheet id="dry-run" :work="run" class="work" />
  </div>
  <form v-else class="form" @submit.prevent="start">
    <p class="muted">
      A made-up joint{{ examples ? ', with the examples of this procedure' : '' }}. Change what you like; the
      steps, limits and drawings follow.
    </p>
    <div class="facts">
      <FactField
        v-for="f in procedure.facts"
        :key="f.key"
        v-model="typed[f.key]!"
        :fact="f"
        :fault="faults[f.key]"
      />
    </div>
    <template v-if="procedure.options.length">
      <h2>Schools</h2>
      <div v-for="o in procedure.options" :key="o.key" class="option">
        <span class="muted small">{{ o.title }}</span>
        <ElRadioGroup v-model="schools[o.key]" :aria-label="o.title"
          ><ElRadioButton v-for="c in o.choices" :key="c.key" :value="c.key">{{
            c.title
          }}</ElRadioButton></ElRadioGroup
        >
      </div>
    </template>
    <ElButton type="primary" size="large" native-type="submit">Begin the dry run</ElButton>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 18px;
  align-items: stretch;
  max-width: 980px;
}
.form > .el-button {
  align-self: flex-start;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 16px 20px;
}
.option {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.run {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.strip {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 16px;
  border-bottom: 1px solid var(--hair);
  background: var(--wash);
}
.work {
  flex: 1;
  min-height: 0;
}
</style>
