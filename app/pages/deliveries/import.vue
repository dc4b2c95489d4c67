<script setup lang="ts">
import { showCount } from '#core/quantity/show'
import { noteColumns } from '#core/delivery/columns'
import type { Order } from '../../../server/db/deliveries'
import type { NotePreview } from '../../../server/services/note-reading'
import { useSession } from '~/stores/session'

/**
 * A delivery note taken in: from a file, or row by row from labels and keyboard; held against the order
 * before anything is written.
 */
const session = useSession()
const { data: orders, problem, load } = useLoad(() => api<Order[]>(`${session.base}/orders`))
onMounted(async () => {
  await load()
  order.value = orders.value?.find((o) => o.lines.some((l) => l.received < l.quantity))?.id ?? ''
})
const order = ref('')
const number = ref('')
const by = ref<'file' | 'rows'>('file')
const outstanding = (o: Order) => o.lines.reduce((sum, l) => sum + Math.max(0, l.quantity - l.received), 0)
const chosenOrder = computed(() => orders.value?.find((o) => o.id === order.value) ?? null)

const { file, preview, fault, busy, mapping, remap, bring } = useImport<NotePreview>(
  (f, m) => api(`${session.base}/deliveries/preview`, { body: { order: order.value, file: f, mapping: m } }),
  () => order.value !== '',
  [order],
)
const typed = ref<Record<string, string>[]>([])
const typedPreview = ref<NotePreview | null>(null)
watch(typed, () => (typedPreview.value = null), { deep: true })
const shown = computed(() => (by.value === 'file' ? preview.value : typedPreview.value))
async function check() {
  typedPreview.value = await bring(() =>
    api<NotePreview>(`${session.base}/deliveries/preview`, {
      body: { order: order.value, rows: typed.value },
    }),
  )
}
async function take() {
  const source = by.value === 'file' ? { file: file.value, mapping: mapping.value } : { rows: typed.value }
  const made = await bring(() =>
    api<{ id: string }>(`${session.base}/deliveries`, {
      body: { order: order.value, number: number.value, ...source },
    }),
  )
  if (made) await navigateTo(`/deliveries/${made.id}`)
}
</script>

<template>
  <div class="page" tabindex="0" role="region" aria-label="Import a delivery note">
    <div class="page-head"><h1>Import a delivery note</h1></div>
    <Notice v-if="problem" :problem="problem" @again="load" />
    <div v-else class="two">
      <section>
        <div class="field">
          Order<ElSelect v-model="order" aria-label="Order" filterable
            ><ElOption
              v-for="o in orders ?? []"
              :key="o.id"
              :value="o.id"
              :label="`${o.number} · ${o.supplier} · ${showCount(outstanding(o))} outstanding`"
          /></ElSelect>
        </div>
        <ElRadioGroup v-model="by" aria-label="How the note comes in"
          ><ElRadioButton value="file">From a file</ElRadioButton
          ><ElRadioButton value="rows">Labels or keyboard</ElRadioButton></ElRadioGroup
        >
        <template v-if="by === 'file'">
          <FileDrop
            v-model="file"
            label="Note as CSV or spreadsheet"
            accept=".csv,.xlsx,.txt,text/csv,text/plain"
          />
          <ColumnMapping
            v-if="preview && preview.header.length"
            :columns="noteColumns"
            :header="preview.header"
            :mapping="mapping ?? preview.mapping"
            :remembered="preview.remembered"
            :unmapped="preview.unmapped"
            @change="remap"
          />
        </template>
        <NoteRows v-else v-model="typed" :order="chosenOrder" />
        <label v-if="by === 'rows' || (shown && !shown.noteNumber && !shown.unmapped.length)"
          >Number of the note<ElInput v-model="number" size="large" maxlength="60"
        /></label>
        <ElButton
          v-if="by === 'rows'"
          size="large"
          :disabled="typed.length === 0 || !order"
          :loading="busy"
          @click="check"
          >Hold it against the order</ElButton
        >
        <p class="muted small">
          Nothing is written before you press Import. Reconcile before unloading and before signing.
        </p>
      </section>
      <section aria-live="polite">
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <Notice v-else-if="busy && !shown" loading />
        <template v-else-if="shown && !shown.unmapped.length">
          <p v-if="shown.remark" class="warn">{{ shown.remark }}</p>
          <RowFaults v-if="shown.faultCount > 0" :faults="shown.faults" :count="shown.faultCount" />
          <template v-else>
            <h2>
              {{ shown.noteNumber || number || 'Note' }}: {{ showCount(shown.rows) }}
              {{ shown.rows === 1 ? 'row' : 'rows' }}, {{ showCount(shown.pieces) }}
              {{ shown.pieces === 1 ? 'piece' : 'pieces' }}, against the order
            </h2>
            <p v-for="w in shown.warnings" :key="w" class="warn">{{ w }}</p>
            <ReconciledLines :lines="shown.lines" />
            <ElButton type="primary" size="large" :loading="busy" @click="take"
              >Import {{ showCount(shown.rows) }} {{ shown.rows === 1 ? 'row' : 'rows' }}</ElButton
            >
          </template>
        </template>
        <Notice
          v-else-if="shown"
          empty="One more thing"
          hint="Say on the left which column of the file is which. It is remembered for the next file with these headings."
        />
        <Notice
          v-else
          empty="Nothing chosen yet"
          hint="The note is held against the order, line by line, before anything is written."
        />
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(380px, 5fr) 7fr;
  gap: 32px;
}
section {
  display: flex;
  flex-direction: column;
  gap: 16px;
  min-width: 0;
}
.field,
label {
  font-size: var(--s14);
  color: var(--muted);
}
.warn {
  padding: 10px 14px;
  border-left: 4px solid var(--held);
  background: color-mix(in srgb, var(--held) 9%, var(--card));
}
section > .el-button {
  align-self: flex-end;
}
@media (max-width: 1000px) {
  .columns,
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
