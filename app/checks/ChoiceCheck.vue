<script setup lang="ts">
import { checkOf, type CheckEmits, type CheckForm, type CheckProps } from './form'

/** One of a few answers, each a large button. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const check = computed(() => checkOf<'choice'>(props.step))
function choose(index: number) {
  const choice = check.value.choices[index]
  if (choice) emit('answer', [{ kind: 'choice', payload: { choice: choice.key } }])
}
defineExpose<CheckForm>({ choose })
</script>

<template>
  <div class="part">
    <p class="question">{{ check.question }}</p>
    <div class="choices">
      <ElButton
        v-for="(c, i) in check.choices"
        :key="c.key"
        size="large"
        class="big"
        :disabled="busy"
        :aria-keyshortcuts="String(i + 1)"
        @click="choose(i)"
        >{{ c.title }}</ElButton
      >
    </div>
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 10px;
}
.choices .big {
  height: auto;
  min-height: 64px;
  padding-block: 10px;
}
.choices .el-button + .el-button {
  margin-left: 0;
}
</style>
