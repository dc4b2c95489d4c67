<script setup lang="ts">
import type { AfterRow } from '#core/pressure/after'

/** What is seen to when a test is over, each with why; the last word stands. */
defineProps<{ rows: AfterRow[]; people: Record<string, string>; mayAnswer: boolean; busy: boolean }>()
defineEmits<{ answer: [row: string, answer: string] }>()
const times = useTimes()
</script>

<template>
  <h2>After the test</h2>
  <ul class="after">
    <li v-for="r in rows" :key="r.key">
      <StateGlyph :state="r.answer ? 'accepted' : 'not-started'" :size="26" />
      <span class="grow"
        ><strong>{{ r.title }}</strong
        ><br /><span class="small muted">{{
          r.answer && r.by && r.at !== null
            ? `${r.answers.find((a) => a.key === r.answer)?.title}, ${people[r.by]}, ${times.moment(r.at)}`
            : r.why
        }}</span></span
      >
      <template v-if="mayAnswer">
        <ElButton
          v-for="a in r.answers.filter((x) => x.key !== r.answer)"
          :key="a.key"
          :disabled="busy"
          @click="$emit('answer', r.key, a.key)"
          >{{ a.title }}</ElButton
        >
      </template>
    </li>
  </ul>
</template>

<style scoped>
.after {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-start;
  padding: 9px 0;
  border-top: 1px solid var(--hair);
}
.grow {
  min-width: 200px;
}
</style>
