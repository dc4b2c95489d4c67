<script setup lang="ts">
import type { Order } from '../../../server/db/deliveries'
import type { NotePreview } from '../../../server/services/deliveries'
import { useSession } from '~/stores/session'

const session = useSession()
const { data: orders, problem, load } = useLoad(() => api<Order[]>(`${session.base}/orders`))
onMounted(async () => {
  await load()
  order.value = orders.value?.find((o) => o.lines.some((l) => l.received < l.quantity))?.id ?? ''
})
const order = ref('')
const number = ref('')
const file = ref<{ name: string; text: string } | null>(null)
const preview = ref<NotePreview | null>(null)
const fault = ref('')
const busy = ref(false)
const outstanding = (o: Order) => o.lines.reduce((sum, l) => sum + Math.max(0, l.quantity - l.received), 0)

async function choose(event: Event) {
  const picked = (event.target as HTMLInputElement).files?.[0]
  if (!picked) return
  const bytes = new Uint8Array(await picked.arrayBuffer())
  try {
    file.value = { name: picked.name, text: new TextDecoder('utf-8', { fatal: true }).decode(bytes) }
  } catch {
    // Notes from older programs: shown as read, so that a wrong letter is seen before anything is imported.
    file.value = { name: picked.name, text: new TextDecoder('windows-1252').decode(bytes) }
  }
}
watch([file, order], async () => {
  preview.value = null
  fault.value = ''
  if (!file.value || !order.value) return
  busy.value = true
  try {
    preview.value = await api<NotePreview>(`${session.base}/deliveries/preview`, { body: { order: order.value, csv: file.value.text } })
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'The file could not be read.'
  } finally {
    busy.value = false
  }
})
async function bring() {
  busy.value = true
  fault.value = ''
  try {
    const { id } = await api<{ id: string }>(`${session.base}/deliveries`, { body: { order: order.value, csv: file.value!.text, number: number.value } })
    await navigateTo(`/deliveries/${id}`)
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'Nothing was imported.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Import a delivery note</h1></div>
    <Notice v-if="problem" :problem="problem" @again="load" />
    <div v-else class="two">
      <section>
        <div class="field">Order<ElSelect v-model="order" aria-label="Order"><ElOption v-for="o in orders ?? []" :key="o.id" :value="o.id" :label="`${o.number} · ${o.supplier} · ${outstanding(o)} outstanding`" /></ElSelect></div>
        <label>Note as CSV<span class="drop"><input type="file" accept=".csv,text/csv,text/plain" aria-label="Note as CSV" @change="choose"><span>{{ file?.name ?? 'Choose the file' }}</span></span></label>
        <label v-if="preview && !preview.noteNumber">Number of the note<ElInput v-model="number" maxlength="60" /></label>
        <p class="muted small">Columns: note, item, class, lot, quantity; serial and length where there are any. Nothing is written before you press Import.</p>
      </section>
      <section aria-live="polite">
        <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
        <Notice v-else-if="busy && !preview" loading />
        <template v-else-if="preview">
          <template v-if="preview.faults.length > 0">
            <h2 class="fault">{{ preview.faults.length }} {{ preview.faults.length === 1 ? 'fault' : 'faults' }}: nothing can be imported</h2>
            <div class="sheet scroll">
              <table class="figures">
                <thead><tr><th class="number">Row</th><th>Column</th><th>What is wrong</th></tr></thead>
                <tbody><tr v-for="(f, i) in preview.faults" :key="i"><td class="number">{{ f.row }}</td><td>{{ f.column }}</td><td>{{ f.message }}</td></tr></tbody>
              </table>
            </div>
          </template>
          <template v-else>
            <h2>{{ preview.noteNumber || 'Note' }}, {{ preview.rows }} rows, against the order</h2>
            <ReconciledLines :lines="preview.lines" />
            <ElButton type="primary" size="large" :loading="busy" @click="bring">Import {{ preview.rows }} rows</ElButton>
          </template>
        </template>
        <Notice v-else empty="Nothing chosen yet" hint="The note is held against the order, line by line, before anything is written." />
      </section>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 360px 1fr;
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
.drop {
  position: relative;
  display: flex;
  align-items: center;
  min-height: 96px;
  padding: 16px;
  border: 2px dashed var(--muted);
  border-radius: var(--corner);
  font-size: var(--s18);
  color: var(--ink);
  background: var(--card);
  overflow-wrap: anywhere;
}
.drop input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.drop:focus-within {
  outline: 3px solid var(--line);
}
.fault {
  color: var(--rejected);
  font-weight: 600;
}
.scroll {
  max-height: 480px;
  overflow: auto;
}
.el-button {
  align-self: flex-end;
}
</style>
