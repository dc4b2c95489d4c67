<script setup lang="ts">
import { useDebounceFn, useVirtualList } from '@vueuse/core'
import type { Label } from '#core/delivery/gs1'
import type { LotRow } from '~/composables/useLotAge'
import { useSession } from '~/stores/session'

/** Lots with their age: what is near its end, past it, or in quarantine; labels read and printed. */
const session = useSession()
const route = useRoute()
const { glyph, word } = useLotAge()
const search = ref('')
const paged = usePaged<LotRow>(async (from, count) => {
  const { total, lots } = await api<{ total: number; lots: LotRow[] }>(`${session.base}/lots`, {
    query: { search: search.value, from: String(from), count: String(count) },
  })
  return { total, items: lots }
})
const { list, containerProps, wrapperProps } = useVirtualList(paged.rows, { itemHeight: 56, overscan: 10 })
watch(list, (l) => l.length && paged.want(l[0]!.index, l.at(-1)!.index))
watch(search, useDebounceFn(paged.restart, 200))
const chosen = ref<string | null>(typeof route.query.lot === 'string' ? route.query.lot : null)
const started = ref(false)
onMounted(async () => {
  await paged.restart()
  started.value = true
})

const scanning = ref(false)
/** labels taken: what stands of the chosen lot is read anew after each */
const taken = ref(0)
const said = ref('')
const { words: fault, want, send } = useSending()
async function read(label: Label) {
  said.value = ''
  if (!label.lot) return want('This label names no lot.')
  const article = session.overview?.articles.find((a) => a.gtin && a.gtin === label.gtin)
  const { lot, made, expires, bestBefore } = label
  const body = { lot, item: article?.item ?? null, made, expires: expires ?? bestBefore }
  const found = await send(() => api<{ id: string }>(`${session.base}/lots`, { body }))
  if (!found) return
  chosen.value = found.id
  taken.value++
  said.value = `Lot ${lot} is in the register.`
  await paged.restart()
}
</script>

<template>
  <div class="lots">
    <section class="left">
      <DeliveryTabs />
      <div class="page-head">
        <h1 class="grow">Lots</h1>
        <a class="quiet" :href="`/api/${session.base}/lots/export`" download>CSV</a
        ><ElButton v-if="session.can('enter-lot')" type="primary" size="large" @click="scanning = true"
          >Read a label</ElButton
        >
      </div>
      <p v-if="said" class="fine" role="status">{{ said }}</p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <ElInput v-model="search" size="large" clearable placeholder="Lot or item" aria-label="Find a lot" />
      <Notice
        v-if="paged.problem.value && !paged.total.value"
        :problem="paged.problem.value"
        @again="paged.restart"
      />
      <Notice v-else-if="!started" loading />
      <Notice
        v-else-if="paged.total.value === 0"
        :empty="search ? 'No lot like that' : 'No lot yet'"
        hint="Lots come with delivery notes, or from labels."
      />
      <div v-else v-bind="containerProps" class="list sheet" role="listbox" aria-label="Lots" tabindex="0">
        <div v-bind="wrapperProps">
          <button
            v-for="{ data: l, index } in list"
            :key="index"
            type="button"
            role="option"
            class="pick"
            :class="{ here: l && l.id === chosen }"
            :aria-selected="l !== undefined && l.id === chosen"
            :disabled="!l"
            @click="l && (chosen = l.id)"
          >
            <template v-if="l"
              ><StateGlyph :state="glyph(l)" :size="26" /><strong class="name">{{ l.lot }}</strong
              ><span class="muted grow clip">{{ l.title ?? l.item ?? 'item not known' }}</span
              ><span class="muted pieces">{{ l.items || '' }}</span
              ><span class="age">{{ word(l) }}</span></template
            >
            <span v-else class="muted">…</span>
          </button>
        </div>
      </div>
    </section>
    <section class="right" tabindex="0" role="region" aria-label="Lot">
      <Notice
        v-if="chosen === null"
        empty="Choose a lot"
        hint="Its dates, where its pieces stand, and every joint made with it."
      />
      <LotSheet v-else :key="taken" :lot-id="chosen" @changed="paged.restart" />
    </section>
    <LabelScanner v-model="scanning" @read="read" />
  </div>
</template>

<style scoped>
.lots {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(400px, 1fr);
}
.left {
  padding: 8px 24px 20px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
.page-head {
  margin: 0;
}
.tabs {
  margin-bottom: 4px;
}
.right {
  border-left: 1px solid var(--hair);
  background: var(--card);
  padding: 20px 24px;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.list {
  flex: 1;
  min-height: 120px;
}
.name {
  min-width: 76px;
}
.pieces {
  min-width: 40px;
  text-align: right;
}
.age {
  min-width: 176px;
}
@media (max-width: 1000px) {
  .lots {
    display: block;
    overflow-y: auto;
  }
  .left {
    padding: 8px 14px 14px;
  }
  .right {
    border-left: 0;
    border-top: 1px solid var(--hair);
    padding: 14px;
    overflow: visible;
  }
  .list {
    height: 46vh;
    flex: none;
  }
}
@media (max-width: 720px) {
  .age {
    min-width: 0;
  }
}
</style>
