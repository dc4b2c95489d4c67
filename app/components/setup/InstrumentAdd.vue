<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import { dimensions } from '#core/quantity/dimension'
import { useSession } from '~/stores/session'

/** An instrument for the register: what it reads, how far, how finely and how surely. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ added: [] }>()
const session = useSession()
const { busy, at, besides, send, clear } = useSending()
const blank = () => ({
  ...{ name: '', kind: '', quantity: 'length' },
  ...{ min: '0 mm', max: '', resolution: '', uncertainty: '' },
})
const fresh = reactive(blank())
watch(open, clear)
const figures = [
  { key: 'min', label: 'Range from', like: '0 mm' },
  { key: 'max', label: 'Range to', like: '150 mm' },
  { key: 'resolution', label: 'Resolution', like: '0.01 mm' },
  { key: 'uncertainty', label: 'Uncertainty of one reading, ±', like: '0.03 mm' },
] as const
const fields = ['name', 'kind', ...figures.map((f) => f.key)]
async function add() {
  const kept = await send(async () => {
    await api(`${session.base}/instruments`, { body: { id: uuidv7(), ...fresh } })
    return true
  })
  if (!kept) return
  Object.assign(fresh, blank())
  open.value = false
  emit('added')
}
</script>

<template>
  <DialogForm
    v-model="open"
    title="Add an instrument"
    action="Add"
    width="640px"
    columns
    :busy="busy"
    :fault="besides(fields)"
    @send="add"
  >
    <FormField label="Name" :fault="at('name')"
      ><ElInput v-model="fresh.name" size="large" maxlength="120"
    /></FormField>
    <FormField label="Kind, as procedures name it" :fault="at('kind')"
      ><ElInput
        v-model="fresh.kind"
        size="large"
        maxlength="60"
        placeholder="calliper, feeler, torque wrench …"
    /></FormField>
    <FormField label="Quantity" group class="wide"
      ><ElSelect v-model="fresh.quantity" size="large" aria-label="Quantity"
        ><ElOption
          v-for="(d, key) in dimensions"
          :key="key"
          :value="key"
          :label="d.noun.replace(/^an? /, '')" /></ElSelect
    ></FormField>
    <FormField v-for="f in figures" :key="f.key" :label="f.label" :fault="at(f.key)"
      ><ElInput v-model="fresh[f.key]" size="large" maxlength="40" :placeholder="f.like"
    /></FormField>
  </DialogForm>
</template>
