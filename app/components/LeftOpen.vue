<script setup lang="ts">
import { rainCaution, type LeftOpen } from '#core/crew/end-of-day'
import type { CrewLeft } from '../../server/services/left-open'
import { useSession } from '~/stores/session'

/** What the crews would leave open if they went home now, and what rain would do to it. */
const session = useSession()
const { data, load } = useLoad(() => api<CrewLeft[]>(`${session.base}/left-open`))
const rain = useRainTonight()
const caution = computed(() => (rain.value ? rainCaution((data.value ?? []).flatMap((c) => c.left)) : null))
const own = computed(() => !session.can('see-office'))
const to = (l: LeftOpen) =>
  `/${l.of === 'joint' ? 'joints' : 'embedment'}/${l.id}${l.step === null ? '' : `?step=${l.step}`}`
const glyphs = { joint: 'in-work', fill: 'not-started', end: 'held' } as const
onMounted(load)
useFeed(session.projectKey, () => void load())
</script>

<template>
  <section v-if="data && data.length > 0" class="left" aria-label="Before the day ends">
    <header>
      <h2>{{ own ? 'Before you leave' : 'Open if the crews left now' }}</h2>
      <div class="rain">
        <span id="rain-question">Rain in the night</span>
        <ElRadioGroup v-model="rain" aria-labelledby="rain-question" size="large">
          <ElRadioButton :value="true">Expected</ElRadioButton>
          <ElRadioButton :value="false">Not expected</ElRadioButton>
        </ElRadioGroup>
      </div>
    </header>
    <p v-if="caution" class="caution" role="status">{{ caution }}</p>
    <div class="crews">
      <div v-for="c in data" :key="c.crew" class="crew" :class="{ alone: own }">
        <h3 v-if="!own">{{ c.name }}</h3>
        <ul>
          <li v-for="l in c.left" :key="`${l.id} ${l.step}`">
            <NuxtLink :to="to(l)">
              <StateGlyph :state="glyphs[l.kind]" :size="22" />
              <span
                ><strong>{{ l.name }}</strong> <span class="says">{{ l.says }}</span></span
              >
            </NuxtLink>
          </li>
        </ul>
      </div>
    </div>
    <p v-if="own" class="foot">
      <NuxtLink :to="`/crews/${data[0]!.crew}/shift`">Report of today, to be signed</NuxtLink>
    </p>
  </section>
</template>

<style scoped>
.left {
  margin-top: 36px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 8px 20px;
  padding-bottom: 8px;
  border-bottom: 3px solid var(--ink);
}
header h2 {
  flex: 1;
}
.rain {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
}
.caution {
  margin: 12px 0 0;
  padding: 8px 12px;
  border-left: 4px solid var(--held);
  background: var(--wash);
}
.crews {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 340px), 1fr));
  gap: 8px 28px;
}
h3 {
  margin: 14px 0 0;
}
/* One crew has the whole width for its list. */
.alone {
  grid-column: 1 / -1;
}
.alone ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 340px), 1fr));
  gap: 0 28px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li a {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 48px;
  padding: 6px 4px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
}
li a > span {
  min-width: 0;
  overflow-wrap: anywhere;
}
.says {
  color: var(--muted);
}
.foot {
  margin: 14px 4px 0;
}
</style>
