<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import { useSession } from '~/stores/session'
import type { deliverySheet } from '../../../server/services/delivery-sheet'

/** How many of an article are looked at, what that plan promises, and what the sample said. */
type Article = Awaited<ReturnType<typeof deliverySheet>>['articles'][number]
const props = defineProps<{
  article: Article
  may: boolean
  places: { id: string; name: string }[]
  draw: (item: string) => Promise<void>
  store: (item: string, place: string) => Promise<void>
}>()
const session = useSession()
const mayStore = computed(() => session.can('receive-goods'))
const severityWords = { normal: 'Normal', tightened: 'Tightened', relaxed: 'Relaxed' } as const
const percent = (v: number, digits = 1) => `${(v * 100).toFixed(digits)} %`
const place = ref(props.article.place ?? '')
const { busy, words, send } = useSending()
const go = () => send(() => props.draw(props.article.item))
const lay = (id: string) => send(() => props.store(props.article.item, id))
</script>

<template>
  <div class="panel">
    <header>
      <h2>{{ article.title }}</h2>
      <span class="muted"
        >{{ showCount(article.count) }} on this note, lots {{ article.lots.slice(0, 4).join(', ')
        }}{{ article.lots.length > 4 ? ' …' : '' }}</span
      >
    </header>
    <div class="field">
      Lies at<ElSelect
        v-model="place"
        placeholder="not said yet"
        aria-label="Lies at"
        :disabled="!mayStore || busy"
        @change="lay"
        ><ElOption v-for="p in places" :key="p.id" :value="p.id" :label="p.name"
      /></ElSelect>
    </div>
    <template v-if="article.plan">
      <div
        v-if="article.sampling"
        class="said"
        :class="article.sampling.accepted === null ? 'open' : article.sampling.accepted ? 'good' : 'bad'"
      >
        <StateGlyph
          :state="
            article.sampling.accepted === null
              ? 'in-work'
              : article.sampling.accepted
                ? 'accepted'
                : 'rejected'
          "
          :size="32"
        />
        <p v-if="article.sampling.accepted === null">
          <strong>{{ article.sampling.open }} of {{ article.sampling.sample }} to look at.</strong>
          {{ article.sampling.found }} bad so far; {{ article.sampling.acceptance }} may be.
        </p>
        <p v-else-if="article.sampling.accepted">
          <strong>The sample passed:</strong> {{ article.sampling.bad }} bad among
          {{ article.sampling.sample }}, {{ article.sampling.acceptance }} may be. The rest may be accepted
          unseen.
        </p>
        <p v-else>
          <strong>The sample refuses the lot:</strong> {{ article.sampling.bad }} bad,
          {{ article.sampling.acceptance }} may be. Look at every item, or return them.
        </p>
      </div>
      <p class="plan">
        <span class="reading">{{ article.plan.sample }}</span> of {{ article.plan.lot }}, at most
        <span class="reading">{{ article.plan.acceptance }}</span> bad
      </p>
      <p class="muted">
        {{ severityWords[article.plan.severity] }} inspection. {{ article.severity.reason }}
      </p>
      <OperatingCurve :points="article.characteristic" :plan="article.plan" />
      <p class="small">
        A lot with {{ percent(article.plan.catches) }} bad slips through
        {{ percent(article.plan.consumerRisk) }} of the time; a good one is refused
        {{ percent(article.plan.producerRisk) }}.
      </p>
      <p v-if="words" class="fault" role="alert">{{ words }}</p>
      <ElButton v-if="may && !article.sampling" type="primary" size="large" :loading="busy" @click="go"
        >Draw the sample of {{ article.plan.sample }}</ElButton
      >
    </template>
    <Notice v-else empty="Nothing to sample" hint="Nothing of this item is as ordered." />
  </div>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.said {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 14px;
  border-left: 4px solid var(--held);
  background: var(--wash);
}
.said.good {
  border-left-color: var(--accepted);
}
.said.bad {
  border-left-color: var(--rejected);
}
.plan {
  font-size: var(--s18);
}
</style>
