<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import { orderColumns } from '#core/delivery/columns'
import type { Order } from '../../../server/db/deliveries'
import type { OrderPreview } from '../../../server/services/orders'
import { useSession } from '~/stores/session'

/** What was ordered, how much of it has come, and new orders from a file. */
const session = useSession()
const { data, problem, loading, load } = useLoad(() => api<Order[]>(`${session.base}/orders`))
onMounted(load)
const may = computed(() => session.can('order-goods'))
const open = ref(false)
const { file, preview, fault, busy, mapping, remap, bring } = useImport<OrderPreview>(
  (f, m) => api(`${session.base}/orders/preview`, { body: { file: f, mapping: m } }),
  () => true,
)
watch(open, (now) => now && ((file.value = null), (fault.value = '')))
async function take() {
  const made = await bring(() =>
    api(`${session.base}/orders`, { body: { file: file.value, mapping: mapping.value } }),
  )
  if (!made) return
  open.value = false
  await load()
}
const share = (o: Order) => {
  const all = o.lines.reduce((s, l) => s + l.quantity, 0)
  return { all, got: o.lines.reduce((s, l) => s + Math.min(l.received, l.quantity), 0) }
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Orders">
    <DeliveryTabs />
    <div class="page-head">
      <h1 class="grow">Orders</h1>
      <ElButton v-if="may" type="primary" size="large" @click="open = true">Import orders</ElButton>
    </div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No order yet"
      hint="A delivery is held against its order before it is signed: import what was ordered first."
    />
    <section v-for="o in data" v-else :key="o.id" class="order">
      <div class="row">
        <h2>{{ o.number }}</h2>
        <span class="muted grow">{{ o.supplier }}</span><span
          >{{ share(o).got }} of {{ share(o).all }} received</span
        >
      </div>
      <div class="sheet">
        <table class="figures">
          <thead>
            <tr>
              <th class="what">Item</th>
              <th>Class</th>
              <th>Lots allowed</th>
              <th class="number">Ordered</th>
              <th class="number">Received</th>
              <th class="number">Outstanding</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in o.lines" :key="l.id">
              <td>
                <StateGlyph
                  :state="l.received >= l.quantity ? 'accepted' : l.received > 0 ? 'in-work' : 'not-started'"
                  :size="22"
                />
                {{ l.title }}
              </td>
              <td>{{ l.pressureClass }}</td>
              <td>{{ l.lots.join(', ') || 'any' }}</td>
              <td class="number">{{ showCount(l.quantity) }}</td>
              <td class="number">{{ showCount(l.received) }}</td>
              <td class="number">{{ l.quantity > l.received ? showCount(l.quantity - l.received) : '–' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <ElDialog v-model="open" title="Import orders" width="900px" align-center>
      <div class="import">
        <FileDrop
          v-model="file"
          label="Orders as CSV or spreadsheet"
          accept=".csv,.xlsx,.txt,text/csv,text/plain"
        />
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <template v-if="preview">
          <ColumnMapping
            :columns="orderColumns"
            :header="preview.header"
            :mapping="mapping ?? preview.mapping"
            :remembered="preview.remembered"
            :unmapped="preview.unmapped"
            @change="remap"
          />
          <p v-if="preview.remark" class="muted">{{ preview.remark }}</p>
          <RowFaults v-if="preview.faultCount > 0" :faults="preview.faults" :count="preview.faultCount" />
          <ul v-else-if="!preview.unmapped.length" class="found">
            <li v-for="o in preview.orders" :key="o.number">
              <strong>{{ o.number }}</strong> {{ o.supplier }}: {{ o.lines }}
              {{ o.lines === 1 ? 'line' : 'lines' }}, {{ showCount(o.pieces) }} pieces
            </li>
          </ul>
        </template>
        <div class="actions">
          <ElButton size="large" @click="open = false">Back</ElButton
          ><ElButton
            type="primary"
            size="large"
            :disabled="!preview || preview.faultCount > 0 || preview.unmapped.length > 0"
            :loading="busy"
            @click="take"
            >Import {{ preview?.orders.length ?? 0 }}
            {{ preview?.orders.length === 1 ? 'order' : 'orders' }}</ElButton
          >
        </div>
      </div>
    </ElDialog>
  </div>
</template>

<style scoped>
.order {
  margin-bottom: 24px;
}
.order .row {
  align-items: baseline;
  margin-bottom: 8px;
}
.what {
  width: 40%;
}
td .glyph {
  vertical-align: middle;
  margin-right: 8px;
}
.import {
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.found {
  margin: 0;
  padding-left: 20px;
}
</style>
