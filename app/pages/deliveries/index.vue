<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import type { deliveriesOf } from '../../../server/db/deliveries'
import { useSession } from '~/stores/session'

type Row = Awaited<ReturnType<typeof deliveriesOf>>[number]
const session = useSession()
const times = useTimes()
const { data, problem, loading, load } = useLoad(() => api<Row[]>(`${session.base}/deliveries`))
onMounted(load)
const deviations = (d: Row) => d.lines.filter((l) => l.result !== 'right' && l.result !== 'short').length
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Delivery notes">
    <DeliveryTabs />
    <div class="page-head">
      <h1 class="grow">Deliveries</h1>
      <ElButton
        v-if="session.can('receive-goods')"
        type="primary"
        size="large"
        @click="navigateTo('/deliveries/import')"
        >Import a delivery note</ElButton
      >
    </div>
    <Notice v-if="problem && !data" :problem="problem" @again="load" />
    <Notice v-else-if="!data" :loading="loading" />
    <Notice
      v-else-if="data.length === 0"
      empty="No delivery yet"
      hint="Import the supplier’s note before it is signed and before unloading."
    />
    <div v-else class="sheet">
      <table class="figures">
        <thead>
          <tr>
            <th>Note</th>
            <th>Order</th>
            <th>Supplier</th>
            <th>Received</th>
            <th class="number">Items</th>
            <th class="number">Quarantined</th>
            <th>State</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in data" :key="d.id">
            <td>
              <NuxtLink :to="`/deliveries/${d.id}`"
                ><strong>{{ d.number }}</strong></NuxtLink
              >
            </td>
            <td>{{ d.orderNumber }}</td>
            <td>{{ d.supplier }}</td>
            <td>{{ times.moment(d.receivedAt) }}</td>
            <td class="number">{{ showCount(d.items) }}</td>
            <td class="number">{{ d.quarantined || '–' }}</td>
            <td>
              <StateGlyph :state="d.state === 'signed' ? 'accepted' : 'in-work'" :size="26" />
              {{
                d.state === 'signed'
                  ? 'Signed'
                  : d.waiting > 0
                    ? `${showCount(d.waiting)} to inspect`
                    : 'To be signed'
              }}<span v-if="deviations(d)" class="deviates"> · {{ deviations(d) }} not as ordered</span>
            </td>
            <td class="number"><ElButton @click="navigateTo(`/deliveries/${d.id}`)">Open</ElButton></td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
td {
  vertical-align: middle;
}
td .glyph {
  vertical-align: middle;
  margin-right: 6px;
}
.deviates {
  color: var(--rejected);
}
</style>
