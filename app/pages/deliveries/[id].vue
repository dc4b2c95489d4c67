<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import type { deliverySheet } from '../../../server/services/deliveries'
import { useSession } from '~/stores/session'
import { itemStateWords } from '~/words'

type Sheet = Awaited<ReturnType<typeof deliverySheet>>
const session = useSession()
const times = useTimes()
const route = useRoute()
const id = route.params.id as string
const { data, problem, loading, load } = useLoad(() => api<Sheet>(`${session.base}/deliveries/${id}`))
onMounted(load)
const chosen = ref<string | null>(typeof route.query.item === 'string' ? route.query.item : null)
const search = ref('')
const items = computed(() => (data.value?.items ?? []).filter((i) => !search.value || `${i.serial} ${i.lot} ${i.title}`.toLowerCase().includes(search.value.toLowerCase())))
const { list, containerProps, wrapperProps } = useVirtualList(items, { itemHeight: 56 })
const item = computed(() => data.value?.items.find((i) => i.id === chosen.value) ?? null)
const waiting = computed(() => data.value?.items.filter((i) => i.state === 'received').length ?? 0)
const acceptable = computed(() => data.value?.items.filter((i) => i.state === 'received' && i.conforms).length ?? 0)
const may = computed(() => session.may('inspector'))
const state = (s: string) => (s === 'accepted' || s === 'remark' ? 'accepted' : s === 'received' ? 'not-started' : 'rejected')
const busy = ref(false)
const signOpen = ref(false)

async function inspect(body: unknown) {
  await api(`${session.base}/deliveries/${id}/items/${chosen.value}`, { body })
  await load()
  const rest = data.value?.items.find((i) => i.state === 'received')
  chosen.value = rest?.id ?? chosen.value
}
async function acceptRest() {
  busy.value = true
  try {
    await api(`${session.base}/deliveries/${id}/accept`, { method: 'POST' })
    await load()
  } catch (error) {
    ElMessage({ type: 'error', message: error instanceof ApiProblem ? error.message : 'Nothing was accepted.' })
  } finally {
    busy.value = false
  }
}
async function sign(secret: string) {
  await api(`${session.base}/deliveries/${id}/sign`, { body: { secret } })
  await load()
}
</script>

<template>
  <Notice v-if="problem && !data" :problem="problem" @again="load" />
  <Notice v-else-if="!data" :loading="loading" />
  <div v-else class="delivery">
    <div class="body">
      <section class="left">
        <div class="page-head"><h1>{{ data.delivery.number }}</h1><span class="muted grow">{{ data.delivery.supplier }}, order {{ data.delivery.orderNumber }}, {{ times.moment(data.delivery.receivedAt) }}</span></div>
        <ReconciledLines :lines="data.delivery.lines" />
        <ElInput v-model="search" size="large" clearable placeholder="Serial or lot" aria-label="Find an item" class="find" />
        <div v-bind="containerProps" class="items sheet" role="listbox" aria-label="Items">
          <div v-bind="wrapperProps">
            <button v-for="{ data: i } in list" :key="i.id" type="button" role="option" :aria-selected="i.id === chosen" class="item" :class="{ here: i.id === chosen }" @click="chosen = i.id">
              <StateGlyph :state="state(i.state)" :size="26" /><strong class="serial">{{ i.serial }}</strong><span class="muted grow">{{ i.title }} · lot {{ i.lot }}</span><span>{{ itemStateWords[i.state] }}</span>
            </button>
          </div>
        </div>
      </section>
      <section class="right">
        <ItemInspection v-if="item" :item="item" :may="may" :send="inspect" />
        <Notice v-else empty="Choose an item" hint="Look at ends, coating, distortion and stones; mark damage on the drawn pipe." />
      </section>
    </div>
    <footer class="bar">
      <p class="grow muted">{{ data.delivery.state === 'signed' ? `Signed ${times.moment(data.delivery.signedAt!)}.` : waiting > 0 ? `${waiting} of ${data.items.length} items to look at before the note is signed.` : 'Every item was looked at. The note can be signed.' }}</p>
      <ElButton v-if="may && acceptable > 0" size="large" :loading="busy" @click="acceptRest">Accept the other {{ acceptable }}</ElButton>
      <ElButton v-if="may && data.delivery.state === 'open'" type="primary" size="large" class="primary" :disabled="waiting > 0" @click="signOpen = true">Sign the note</ElButton>
    </footer>
    <SecretDialog v-model="signOpen" title="Sign the delivery note" action="Sign" :send="sign">
      <p v-if="data.delivery.lines.every((l) => l.result === 'right')">Everything is as ordered.</p>
      <ul v-else><li v-for="l in data.delivery.lines.filter((x) => x.result !== 'right')" :key="l.item + l.result">{{ l.title }}: {{ l.sentence }}</li></ul>
    </SecretDialog>
  </div>
</template>

<style scoped>
.delivery {
  height: 100%;
  display: grid;
  grid-template-rows: minmax(0, 1fr) 72px;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) minmax(360px, 1fr);
  min-height: 0;
}
.left {
  padding: 16px 24px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  min-height: 0;
}
.page-head {
  margin: 0;
}
.right {
  border-left: 1px solid var(--hair);
  padding: 20px 24px;
  overflow-y: auto;
  background: var(--card);
}
.items {
  flex: 1;
  min-height: 160px;
}
.item {
  display: flex;
  align-items: center;
  gap: 14px;
  width: 100%;
  height: 56px;
  padding: 0 14px;
  border: 0;
  border-bottom: 1px solid var(--hair);
  border-left: 4px solid transparent;
  background: none;
  color: inherit;
  font-size: var(--s16);
  text-align: left;
  cursor: pointer;
}
.item.here {
  background: var(--wash);
  border-left-color: var(--line);
}
.serial {
  min-width: 90px;
}
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px 0 24px;
  border-top: 1px solid var(--hair);
  background: var(--card);
}
.primary {
  min-width: 220px;
  --el-button-size: 56px;
  font-size: var(--s18);
}
</style>
