<script setup lang="ts">
import { uuidv7 } from 'uuidv7'
import { dimensions } from '#core/quantity/dimension'
import { useSession } from '~/stores/session'

/** An instrument for the register: what it reads, how far, how finely and how surely. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ added: [] }>()
const session = useSession()
const { busy, fault, at, besides, send } = useSending()
const blank = () => ({
  ...{ name: '', kind: '', quantity: 'length' },
  ...{ min: '0 mm', max: '', resolution: '', uncertainty: '' },
})
const fresh = reactive(blank())
watch(open, () => (fault.value = null))
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
  <ElDialog v-model="open" title="Add an instrument" width="640px" align-center>
    <form class="form" @submit.prevent="add">
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
      <p v-if="besides(fields)" class="fault wide" role="alert">{{ besides(fields) }}</p>
      <div class="actions wide">
        <ElButton size="large" @click="open = false">Back</ElButton
        ><ElButton size="large" type="primary" native-type="submit" :loading="busy">Add</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 720px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
