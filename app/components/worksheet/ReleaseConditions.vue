<script setup lang="ts">
import type { Condition } from '#core/judgement/asked'

/** What later steps must show besides, of a release that is about to be given. */
const conditions = defineModel<Condition[]>({ required: true })
defineProps<{ steps: { key: string; title: string }[] }>()
const add = () => (conditions.value = [...conditions.value, { step: '', text: '' }])
const put = (i: number, change: Partial<Condition>) =>
  (conditions.value = conditions.value.map((c, k) => (k === i ? { ...c, ...change } : c)))
const drop = (i: number) => (conditions.value = conditions.value.filter((_c, k) => k !== i))
</script>

<template>
  <div class="conditions">
    <div v-for="(c, i) in conditions" :key="i" class="one">
      <ElSelect
        :model-value="c.step"
        size="large"
        placeholder="At which later step?"
        :aria-label="`Step of condition ${i + 1}`"
        filterable
        @change="(step: string) => put(i, { step })"
      >
        <ElOption v-for="s in steps" :key="s.key" :value="s.key" :label="s.title" />
      </ElSelect>
      <ElInput
        :model-value="c.text"
        size="large"
        maxlength="400"
        placeholder="What must be shown there"
        :aria-label="`Words of condition ${i + 1}`"
        @input="(text: string) => put(i, { text })"
      />
      <ElButton size="large" text @click="drop(i)">Take off</ElButton>
    </div>
    <ElButton v-if="steps.length > 0" size="large" @click="add">{{
      conditions.length === 0 ? 'Release on a condition' : 'A further condition'
    }}</ElButton>
  </div>
</template>

<style scoped>
.conditions {
  display: flex;
  flex-direction: column;
  gap: 10px;
  align-items: flex-start;
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  width: 100%;
}
.one .el-select,
.one .el-input {
  flex: 1 1 200px;
}
</style>
