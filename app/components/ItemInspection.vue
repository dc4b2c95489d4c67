<script setup lang="ts">
import { readQuantity } from '#core/quantity/read'
import { showQuantity } from '#core/quantity/show'
import { Problem } from '#core/problem'
import type { deliverySheet } from '../../server/services/deliveries'
import { itemStateWords } from '~/words'

/** One item looked at: damage placed on a drawn pipe, the criterion's word, and the person's outcome. */
export type SheetItem = Awaited<ReturnType<typeof deliverySheet>>['items'][number]
const props = defineProps<{ item: SheetItem; may: boolean; send: (body: { outcome: string; remark: string | null; damage: { clock: number; fromEnd: number; length: number; depth: number } | null }) => Promise<void> }>()
const known = computed(() => (props.item.inspection as { damage?: { clock: number; fromEnd: number; length: number; depth: number } | null; remark?: string | null } | null) ?? null)
const damaged = ref(false)
const remark = ref('')
const damage = reactive({ clock: 12, fromEnd: 1, length: '100', depth: '' })
const fault = ref('')
const busy = ref(false)
watch(() => props.item.id, () => {
  damaged.value = Boolean(known.value?.damage)
  remark.value = props.item.remark ?? ''
  fault.value = ''
  const d = known.value?.damage
  Object.assign(damage, { clock: d?.clock ?? 12, fromEnd: d?.fromEnd ?? 1, length: d ? String(d.length * 1000) : '100', depth: d ? String(d.depth * 1000) : '' })
}, { immediate: true })
const read = (text: string): number | null => {
  try {
    return readQuantity(text, 'length', { bareUnit: 'mm' })
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
}
const wall = computed(() => (typeof props.item.facts['pipe.wall'] === 'number' ? props.item.facts['pipe.wall'] : 0))
const depth = computed(() => read(damage.depth))
const share = computed(() => (wall.value > 0 && depth.value !== null ? depth.value / wall.value : null))
async function done(outcome: string) {
  fault.value = ''
  const length = read(damage.length)
  if (damaged.value && (depth.value === null || length === null)) return void (fault.value = 'Give length and depth of the damage, in mm or with a unit.')
  if (outcome !== 'accepted' && !remark.value.trim() && !damaged.value) return void (fault.value = 'Say why.')
  busy.value = true
  try {
    await props.send({ outcome, remark: remark.value.trim() || (damaged.value && share.value !== null ? `Damage ${showQuantity(depth.value!, 'length', 'mm')} deep, ${(share.value * 100).toFixed(1)} % of wall` : null), damage: damaged.value ? { clock: damage.clock, fromEnd: damage.fromEnd, length: length!, depth: depth.value! } : null })
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.message : 'This was not recorded.'
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="inspection">
    <header class="row">
      <div class="grow"><h2>{{ item.serial }}</h2><span class="muted">{{ item.title }} · lot {{ item.lot }}</span></div>
      <StateGlyph :state="item.state === 'accepted' || item.state === 'remark' ? 'accepted' : item.state === 'received' ? 'not-started' : 'rejected'" :size="32" /><strong>{{ itemStateWords[item.state] }}</strong>
    </header>
    <p v-if="!item.conforms" class="fault">Not as ordered: quarantine or return it.</p>
    <template v-if="item.kind === 'pipe'">
      <ElCheckbox v-model="damaged" size="large" :disabled="!may">Damaged</ElCheckbox>
      <template v-if="damaged">
        <DamagePipe :length="item.length ?? 12" :clock="damage.clock" :from-end="damage.fromEnd" :damage="read(damage.length) ?? 0" :depth="depth ?? 0" :wall="wall" :editable="may" @place="(p) => Object.assign(damage, p)" />
        <p class="muted small">Tap the pipe for the place, the ring for the clock position.</p>
        <div class="row">
          <label>Length, mm<ElInput v-model="damage.length" inputmode="decimal" :disabled="!may" /></label>
          <label>Depth, mm<ElInput v-model="damage.depth" inputmode="decimal" :disabled="!may" /></label>
        </div>
        <p v-if="share !== null" :class="share > 0.1 ? 'fault' : 'fine'">{{ (share * 100).toFixed(1) }} % of wall: {{ share > 0.1 ? 'over a tenth, cut out or quarantine' : 'within a tenth' }}.</p>
      </template>
    </template>
    <label>Remark<ElInput v-model="remark" type="textarea" :rows="2" maxlength="400" :disabled="!may" /></label>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <div v-if="may" class="outcomes">
      <ElButton type="primary" size="large" :disabled="busy || !item.conforms" @click="done('accepted')">Accept</ElButton>
      <ElButton size="large" :disabled="busy || !item.conforms" @click="done('remark')">Accept with remark</ElButton>
      <ElButton type="danger" size="large" :disabled="busy" @click="done('quarantined')">Quarantine</ElButton>
      <ElButton size="large" :disabled="busy" @click="done('returned')">Return</ElButton>
    </div>
  </div>
</template>

<style scoped>
.inspection {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
label {
  display: block;
  flex: 1;
  font-size: var(--s14);
  color: var(--muted);
}
.fault {
  color: var(--rejected);
  font-weight: 600;
}
.fine {
  color: var(--accepted);
  font-weight: 600;
}
.outcomes {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
