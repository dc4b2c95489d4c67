<script setup lang="ts">
import type { Label } from '#core/delivery/gs1'
import type { Order } from '../../../server/db/deliveries'
import { useSession } from '~/stores/session'

/** Rows of a note typed or read from labels. A label gives item, lot, serial, count and dates at once. */
const props = defineProps<{ order: Order | null }>()
const rows = defineModel<Record<string, string>[]>({ required: true })
const session = useSession()
const scanning = ref(false)
const fault = ref('')
const blank = () => ({ item: '', class: '', lot: '', serial: '', quantity: '1', made: '', expires: '' })
const row = reactive(blank())
watch(
  () => row.item,
  (item) => {
    const line = props.order?.lines.find((l) => l.item === item)
    if (line) row.class = line.pressureClass
  },
)
async function read(label: Label) {
  fault.value = ''
  const article = label.gtin ? (session.overview?.articles ?? []).find((a) => a.gtin === label.gtin) : null
  if (label.gtin && !article) fault.value = `Article ${label.gtin} is not in the catalogue: choose the item.`
  Object.assign(row, blank(), {
    item: article?.item ?? row.item,
    class: article?.pressureClass ?? row.class,
    lot: label.lot ?? '',
    serial: label.serial ?? '',
    quantity: String(label.count ?? 1),
    made: label.made ?? '',
    expires: label.expires ?? label.bestBefore ?? '',
  })
  if (article && row.lot) add()
}
function add() {
  rows.value = [...rows.value, Object.fromEntries(Object.entries(row).map(([k, v]) => [k, v.trim()]))]
  Object.assign(row, { ...blank(), item: row.item, class: row.class, lot: row.lot })
}
const drop = (i: number) => (rows.value = rows.value.filter((_r, k) => k !== i))
</script>

<template>
  <div class="rows">
    <ElButton type="primary" size="large" @click="scanning = true">Read a label</ElButton>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <form class="form" @submit.prevent="add">
      <div class="wide field">
        Item<ElSelect v-model="row.item" filterable aria-label="Item"
          ><ElOption
            v-for="a in session.overview?.articles ?? []"
            :key="a.item"
            :value="a.item"
            :label="`${a.item} · ${a.title}`"
        /></ElSelect>
      </div>
      <label>Class<ElInput v-model="row.class" maxlength="80" /></label>
      <label>Lot<ElInput v-model="row.lot" maxlength="80" /></label>
      <label>Serial<ElInput v-model="row.serial" maxlength="80" /></label>
      <label>Quantity<ElInput v-model="row.quantity" inputmode="numeric" maxlength="6" /></label>
      <DayField v-model="row.made" label="Produced" />
      <DayField v-model="row.expires" label="Expires" />
      <ElButton native-type="submit" class="wide" :disabled="!row.item || !row.lot.trim()"
        >Add the row</ElButton
      >
    </form>
    <ol v-if="rows.length" class="list sheet" tabindex="0" aria-label="Rows of the note">
      <li v-for="(r, i) in rows" :key="i">
        <span class="muted">{{ i + 1 }}</span><strong>{{ r.item }}</strong
        ><span class="grow">lot {{ r.lot }}{{ r.serial ? `, ${r.serial}` : '' }}</span
        ><span>{{ r.quantity }}</span
        ><button type="button" :aria-label="`Take row ${i + 1} away`" @click="drop(i)">×</button>
      </li>
    </ol>
    <LabelScanner v-model="scanning" @read="read" />
  </div>
</template>

<style scoped>
.rows {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 14px;
}
.wide {
  grid-column: 1 / -1;
}
label,
.field {
  font-size: var(--s14);
  color: var(--muted);
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 240px;
  overflow: auto;
}
li {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 48px;
  padding: 0 0 0 12px;
  border-bottom: 1px solid var(--hair);
}
li button {
  width: 48px;
  height: 48px;
  border: 0;
  background: none;
  color: var(--rejected);
  font-size: var(--s22);
  cursor: pointer;
}
</style>
