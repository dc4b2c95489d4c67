<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Item } from '../../../server/db/deliveries'
import { useSession } from '~/stores/session'

/** Opening a joint: accepted, unused pipe and coupler; quarantined items are not offered. */
const props = defineProps<{ joint: { id: string; number: string; station: number } }>()
const emit = defineEmits<{ opened: [] }>()
const session = useSession()
const places = [{ key: 'upstream', title: 'Upstream pipe' }, { key: 'downstream', title: 'Downstream pipe' }, { key: 'fitting', title: 'Coupler' }] as const
type Place = (typeof places)[number]['key']
const offered = reactive<Record<Place, Item[]>>({ upstream: [], downstream: [], fitting: [] })
const chosen = reactive<Record<Place, string>>({ upstream: '', downstream: '', fitting: '' })
const fault = ref<ApiProblem | null>(null)
const busy = ref(false)
const words: Record<string, string> = { 'PE-315-11': '315 mm SDR 11' }

async function offer(place: Place, search = '') {
  offered[place] = await api<Item[]>(`${session.base}/items`, { query: { place, search } })
}
const search = useDebounceFn(offer, 150)
onMounted(() => Promise.all(places.map((p) => offer(p.key))).catch((e: ApiProblem) => (fault.value = e)))
const complete = computed(() => places.every((p) => chosen[p.key]))
async function open() {
  busy.value = true
  fault.value = null
  try {
    await api(`${session.base}/joints/${props.joint.id}/open`, { body: { ...chosen } })
    emit('opened')
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error
  } finally {
    busy.value = false
  }
}
const title = (i: Item) => `${i.serial} · ${words[i.item] ?? i.item} · lot ${i.lot}`
</script>

<template>
  <div class="page narrow">
    <div class="page-head">
      <StateGlyph state="not-started" :size="40" />
      <h1>Open joint {{ joint.number }}</h1>
      <span class="muted">station {{ joint.station.toFixed(1) }} m</span>
    </div>
    <p class="muted">Choose what is joined. Only items accepted on delivery, and not built in yet, are offered. The joint keeps the procedure revision issued now.</p>
    <form @submit.prevent="open">
      <div v-for="p in places" :key="p.key" class="field">
        <span>{{ p.title }}</span>
        <ElSelect v-model="chosen[p.key]" filterable remote :remote-method="(text: string) => search(p.key, text)" remote-show-suffix :aria-label="p.title" placeholder="Type a serial, or choose">
          <ElOption v-for="i in offered[p.key]" :key="i.id" :value="i.id" :label="title(i)" />
        </ElSelect>
        <span v-if="fault?.field === p.key" class="fault" role="alert">{{ fault.message }}</span>
      </div>
      <p v-if="fault && !places.some((p) => p.key === fault!.field)" class="fault" role="alert">{{ fault.message }}</p>
      <ElButton type="primary" size="large" native-type="submit" :disabled="!complete" :loading="busy">Open the joint</ElButton>
    </form>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 760px;
}
form {
  display: flex;
  flex-direction: column;
  gap: 18px;
  margin-top: 20px;
  align-items: flex-start;
}
.field {
  display: block;
  width: 100%;
}
.field > span:first-child {
  font-size: var(--s14);
  color: var(--muted);
}
.fault {
  color: var(--rejected);
  font-weight: 600;
}
</style>
