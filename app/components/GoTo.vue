<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { useDebounceFn } from '@vueuse/core'
import { calculators } from '#core/calculators/registry'
import { findKept } from '~/device/find'
import { useSession } from '~/stores/session'
import type { Found } from '../../server/services/find'

/** Goes to a joint, station, lot, report, pack or calculator by a few letters. */
const open = defineModel<boolean>({ required: true })
const session = useSession()
const text = ref('')
const found = ref<{ key: string; label: string; detail: string; to: string; kind: string }[]>([])
const at = ref(0)
/** the letters that the list is of */
let lookedFor = ''
/** Enter was pressed before what was typed last had been looked for */
let hurried = false
/** what was looked for, and is nowhere */
const nothing = ref(false)
const input = ref<{ focus(): void } | null>(null)

const paths: Record<Found['kind'], (f: Found) => string> = {
  joint: (f) => `/joints/${f.id}`,
  ncr: (f) => `/ncrs/${f.id}`,
  item: (f) => `/deliveries/${f.parent}?item=${f.id}`,
  reach: (f) => `/embedment/${f.id}`,
  pack: (f) => `/tests/${f.id}`,
  delivery: (f) => `/deliveries/${f.id}`,
  lot: (f) => `/deliveries/lots?lot=${f.id}`,
}
const kindWords: Record<Found['kind'], string> = {
  joint: 'Joint',
  ncr: 'NCR',
  item: 'Item',
  reach: 'Reach',
  pack: 'Test pack',
  delivery: 'Delivery',
  lot: 'Lot',
}

const search = useDebounceFn(async () => {
  const wanted = text.value.trim()
  nothing.value = false
  if (!wanted) return void (found.value = [])
  const station = /^(\d+(?:[.,]\d+)?)\s*m?$/.exec(wanted)
  const rows = await api<Found[]>(`${session.base}/find`, { query: { text: wanted } }).catch(() =>
    findKept(session.base, wanted),
  )
  if (text.value.trim() !== wanted) return
  found.value = [
    ...(station
      ? [
          {
            key: 'station',
            label: `Station ${station[1]} ${unitShown('m')}`,
            detail: 'on the line',
            to: `/line?at=${station[1]!.replace(',', '.')}`,
            kind: 'Station',
          },
        ]
      : []),
    ...rows.map((f) => ({
      key: f.id,
      label: f.label,
      detail: f.detail,
      to: paths[f.kind](f),
      kind: kindWords[f.kind],
    })),
    ...calculators
      .filter((c) => `${c.key} ${c.title}`.toLowerCase().includes(wanted.toLowerCase()))
      .slice(0, 6)
      .map((c) => ({
        key: c.key,
        label: c.title,
        detail: '',
        to: `/bench?calculator=${c.key}`,
        kind: 'Calculator',
      })),
  ]
  at.value = 0
  nothing.value = found.value.length === 0
  lookedFor = wanted
  if (hurried) choose()
}, 120)
watch(text, () => {
  hurried = false
  void search()
})
/** Goes to what is marked; never to what was found for fewer letters. */
function choose() {
  hurried = text.value.trim() !== lookedFor
  if (!hurried) void go(found.value[at.value]?.to)
}
/** Keys that are pressed while the dialog still opens are for its field, in their order. */
function early(event: KeyboardEvent) {
  const inField =
    document.activeElement instanceof HTMLInputElement && document.activeElement.closest('.el-dialog')
  if (inField || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'Backspace') text.value = text.value.slice(0, -1)
  else if (event.key.length === 1) text.value += event.key
  else return
  event.preventDefault()
  event.stopImmediatePropagation()
}
const listen = (on: boolean) =>
  on ? window.addEventListener('keydown', early, true) : window.removeEventListener('keydown', early, true)
watch(open, (now) => {
  hurried = false
  if (now) text.value = ''
  listen(now)
})
onBeforeUnmount(() => listen(false))
// The field is there only once the dialog is; what is typed at once must land in it.
watch(input, (field) => field?.focus())
const focus = () => input.value?.focus()
async function go(to: string | undefined) {
  if (!to) return
  open.value = false
  // The field fades away with the dialog; keys pressed meanwhile are for the view that opens.
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
  await navigateTo(to)
}
</script>

<template>
  <ElDialog
    v-model="open"
    title="Go to"
    width="620px"
    align-center
    destroy-on-close
    @open-auto-focus="focus"
    @opened="focus"
  >
    <ElInput
      ref="input"
      v-model="text"
      size="large"
      placeholder="Joint, station, serial, lot, NCR, test pack, calculator"
      aria-label="Go to"
      @keydown.enter.prevent="choose"
      @keydown.down.prevent="at = Math.min(found.length - 1, at + 1)"
      @keydown.up.prevent="at = Math.max(0, at - 1)"
    />
    <!-- Nothing is there to choose from before something is found. -->
    <div class="found" :role="found.length > 0 ? 'listbox' : 'status'" aria-label="Found">
      <button
        v-for="(f, i) in found"
        :key="f.key"
        type="button"
        role="option"
        :aria-selected="i === at"
        class="hit"
        :class="{ at: i === at }"
        @click="go(f.to)"
      >
        <span class="kind muted small">{{ f.kind }}</span><strong>{{ f.label }}</strong
        ><span class="muted small grow">{{ f.detail }}</span>
      </button>
      <p v-if="nothing" class="muted none">Nothing by that name.</p>
    </div>
  </ElDialog>
</template>

<style scoped>
.found {
  height: 380px;
  overflow: auto;
  margin-top: 12px;
}
.hit {
  display: flex;
  gap: 14px;
  align-items: baseline;
  width: 100%;
  min-height: 48px;
  padding: 12px;
  text-align: left;
  background: none;
  border: 0;
  border-left: 4px solid transparent;
  color: inherit;
  font-size: var(--s16);
  cursor: pointer;
}
.hit.at {
  background: var(--wash);
  border-left-color: var(--line);
}
.kind {
  width: 84px;
  flex: none;
}
.none {
  padding: 16px 12px;
}
</style>
