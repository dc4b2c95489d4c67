<script setup lang="ts">
import { calculatorsBySubject, findCalculator } from '#core/calculators/registry'
import { Problem } from '#core/problem'
import { subjectWords } from '~/words'

const route = useRoute()
const key = ref(typeof route.query.calculator === 'string' ? route.query.calculator : 'ovality')
watch(
  () => route.query.calculator,
  (k) => typeof k === 'string' && (key.value = k),
)
const calculator = computed(() => {
  try {
    return findCalculator(key.value)
  } catch (error) {
    if (error instanceof Problem) return findCalculator('ovality')
    throw error
  }
})
const list = ref<HTMLElement | null>(null)
watch(
  key,
  async () => {
    await nextTick()
    list.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'center' })
  },
  { immediate: true, flush: 'post' },
)
</script>

<template>
  <div class="bench">
    <nav ref="list" class="list" aria-label="Calculators">
      <template v-for="(calculators, subject) in calculatorsBySubject" :key="subject">
        <h3>{{ subjectWords[subject] ?? subject }}</h3>
        <button
          v-for="c in calculators"
          :key="c.key"
          type="button"
          :class="{ here: c.key === calculator.key }"
          :aria-current="c.key === calculator.key || undefined"
          @click="key = c.key"
        >
          {{ c.title }}
        </button>
      </template>
    </nav>
    <section class="work">
      <h1>{{ calculator.title }}</h1>
      <CalculatorForm :calculator="calculator" />
    </section>
  </div>
</template>

<style scoped>
.bench {
  height: 100%;
  display: grid;
  grid-template-columns: 300px 1fr;
}
.list {
  overflow-y: auto;
  border-right: 1px solid var(--hair);
  background: var(--card);
  padding-bottom: 16px;
}
.list h3 {
  padding: 14px 16px 4px;
  color: var(--muted);
  font-size: var(--s14);
}
.list button {
  display: block;
  width: 100%;
  min-height: 44px;
  padding: 6px 14px;
  border: 0;
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  font-size: var(--s16);
  cursor: pointer;
}
.list .here {
  background: var(--wash);
  border-left-color: var(--line);
  font-weight: 650;
}
.work {
  overflow-y: auto;
  padding: 20px 28px;
  display: flex;
  flex-direction: column;
  gap: 16px;
  align-items: flex-start;
}
@media (max-width: 1000px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
  }
  .list {
    display: flex;
    overflow: auto hidden;
    border-right: 0;
    border-bottom: 1px solid var(--hair);
    padding: 0;
  }
  .list h3 {
    display: none;
  }
  .list button {
    width: auto;
    flex: none;
    white-space: nowrap;
    border-left: 0;
    border-bottom: 4px solid transparent;
  }
  .list .here {
    border-bottom-color: var(--line);
  }
  .work {
    padding: 16px 14px;
  }
}
</style>
