<script setup lang="ts">
import { showMetres } from '#core/quantity/show'
import { useDebounceFn } from '@vueuse/core'
import { startOf, typedFact } from '#core/procedure/facts'
import type { Item, ItemPlace } from '../../../server/db/items'
import type { Opening } from '../../../server/services/opening'
import { useSession } from '~/stores/session'
import { placeWords } from '~/words'

/**
 * Opening a joint: accepted, unused items where the catalogue knows them, and the facts that nothing else
 * gives.
 */
const props = defineProps<{ joint: { id: string; number: string; station: number }; opening: Opening }>()
const emit = defineEmits<{ opened: [] }>()
const session = useSession()
const places = props.opening.places
const offered = reactive<Record<ItemPlace, Item[]>>({ upstream: [], downstream: [], fitting: [] })
const chosen = reactive<Record<ItemPlace, string>>({ upstream: '', downstream: '', fitting: '' })
const typed = reactive<Record<string, string | boolean>>(
  Object.fromEntries(props.opening.facts.map((f) => [f.key, startOf(f)])),
)
const fault = ref<ApiProblem | null>(null)
const busy = ref(false)

async function offer(place: ItemPlace, search = '') {
  offered[place] = await api<Item[]>(`${session.base}/joints/${props.joint.id}/items`, {
    query: { place, search },
  })
}
const search = useDebounceFn(offer, 150)
onMounted(() => Promise.all(places.map((p) => offer(p))).catch((e: ApiProblem) => (fault.value = e)))
/** What the crew typed at the joint before, while it differs from what stands here. */
const like = computed(() => {
  const { before } = props.opening
  const facts = Object.fromEntries(
    props.opening.facts
      .filter((f) => before?.facts[f.key] !== undefined)
      .map((f) => [f.key, typedFact(f, before!.facts[f.key]!)]),
  )
  const differs = Object.entries(facts).some(([key, v]) => typed[key] !== v)
  return before && differs ? { number: before.number, facts } : null
})
const takeOver = () => Object.assign(typed, like.value!.facts)
const complete = computed(
  () => places.every((p) => chosen[p]) && props.opening.facts.every((f) => f.optional || typed[f.key] !== ''),
)
const shownAt = computed(() =>
  fault.value?.field
    ? [...places, ...props.opening.facts.map((f) => f.key)].includes(fault.value.field)
    : false,
)
async function open() {
  busy.value = true
  fault.value = null
  try {
    const items = Object.fromEntries(places.map((p) => [p, chosen[p]]))
    await api(`${session.base}/joints/${props.joint.id}/open`, {
      body: { ...items, facts: withUnits(typed, props.opening.facts) },
    })
    emit('opened')
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error
    fault.value = error
  } finally {
    busy.value = false
  }
}
const title = (i: Item) => `${i.serial} · ${i.item} · lot ${i.lot}`
</script>

<template>
  <div class="page narrow">
    <div class="page-head">
      <StateGlyph state="not-started" :size="40" />
      <h1>Open joint {{ joint.number }}</h1>
      <span class="muted">station {{ showMetres(joint.station, 1) }}</span>
    </div>
    <p>
      <strong>{{ opening.procedure.title }}</strong>, revision {{ opening.procedure.revision }}.
      <span class="muted">The joint keeps this revision.</span>
    </p>
    <form @submit.prevent="open">
      <section v-if="places.length">
        <p class="muted small">Only items accepted on delivery, and not built in yet, are offered.</p>
        <div v-for="p in places" :key="p" class="field">
          <span>{{ placeWords[p] }}</span>
          <ElSelect
            v-model="chosen[p]"
            filterable
            remote
            :remote-method="(text: string) => search(p, text)"
            remote-show-suffix
            :aria-label="placeWords[p]"
            placeholder="Type a serial, or choose"
          >
            <ElOption v-for="i in offered[p]" :key="i.id" :value="i.id" :label="title(i)" />
          </ElSelect>
          <span v-if="fault?.field === p" class="fault" role="alert">{{ fault.message }}</span>
        </div>
      </section>
      <section v-if="opening.facts.length">
        <p class="muted small">Read from the label, the drawing and the site.</p>
        <ElButton v-if="like" size="large" class="like" @click="takeOver"
          >Same as at {{ like.number }}</ElButton
        >
        <div class="facts">
          <FactField
            v-for="f in opening.facts"
            :key="f.key"
            v-model="typed[f.key]!"
            :fact="f"
            :fault="fault?.field === f.key ? fault.message : undefined"
          />
        </div>
      </section>
      <p v-if="fault && !shownAt" class="fault" role="alert">{{ fault.message }}</p>
      <ElButton type="primary" size="large" native-type="submit" :disabled="!complete" :loading="busy"
        >Open the joint</ElButton
      >
    </form>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 860px;
}
form,
section {
  display: flex;
  flex-direction: column;
  gap: 18px;
  align-items: stretch;
}
form {
  margin-top: 20px;
}
form > .el-button {
  align-self: flex-start;
}
form .like {
  align-self: flex-start;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 16px 20px;
}
.field > span:first-child {
  font-size: var(--s14);
  color: var(--muted);
}
</style>
