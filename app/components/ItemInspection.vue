<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import { showQuantity, showBare } from '#core/quantity/show'
import { judgeDamage, type Damage } from '#core/delivery/damage'
import { judgeItem, type ItemReadings } from '#core/delivery/inspection'
import { calibratedAt, instrumentFacts } from '#core/checks/instruments'
import { readQuantity } from '#core/quantity/read'
import { Problem } from '#core/problem'
import type { itemSheet } from '../../server/services/delivery-sheet'
import { smallPicture } from '~/composables/smallPicture'
import { useSession } from '~/stores/session'
import { itemStateWords } from '~/words'

/**
 * One item looked at: measurements, damage placed on a drawn pipe, photos, the criterion's word, and the
 * person's outcome.
 */
export type SheetItem = Awaited<ReturnType<typeof itemSheet>>
export interface InspectionBody {
  outcome: string
  remark: string | null
  damage: Damage | null
  readings: ItemReadings
  instrument: string | null
  photos: string[]
}
const props = defineProps<{ item: SheetItem; may: boolean; send: (body: InspectionBody) => Promise<void> }>()
const session = useSession()
const known = computed(() => props.item.inspection as Partial<InspectionBody> | null)
const measuring = ref(false)
const damaged = ref(false)
const remark = ref('')
const photos = ref<string[]>([])
const instrument = ref('')
const damage = reactive({ clock: 12, fromEnd: 1, length: '100', depth: '' })
/** what is typed, by limit and place */
const typed = reactive<Record<string, string[]>>({})
const gauges = reactive<Record<string, 'go' | 'no-go' | ''>>({})
const { busy, words, want, clear, send: attempt } = useSending('This was not recorded.')
watch(
  () => props.item,
  () => {
    const said = known.value
    damaged.value = Boolean(said?.damage)
    measuring.value = Object.keys(said?.readings ?? {}).length > 0
    remark.value = props.item.remark ?? ''
    photos.value = [...(said?.photos ?? [])]
    instrument.value = said?.instrument ?? instrument.value
    clear()
    const d = said?.damage
    Object.assign(damage, {
      clock: d?.clock ?? 12,
      fromEnd: d?.fromEnd ?? 1,
      length: showBare(d?.length ?? 0.1, 'mm', 6),
      depth: d ? showBare(d.depth, 'mm', 6) : '',
    })
    for (const limit of props.item.limits) {
      const read = said?.readings?.[limit.key]
      if (limit.kind === 'go') gauges[limit.key] = read === 'go' || read === 'no-go' ? read : ''
      else
        typed[limit.key] = Array.from({ length: limit.readings }, (_v, i) =>
          Array.isArray(read) && read[i] !== undefined ? showBare(read[i]!, limit.unit, 7) : '',
        )
    }
  },
  { immediate: true },
)
const read = (text: string, unit = 'mm'): number | null => {
  try {
    return readQuantity(text, 'length', { bareUnit: unitShown(unit) })
  } catch (error) {
    if (error instanceof Problem) return null
    throw error
  }
}
const readings = computed<ItemReadings>(() => {
  const out: ItemReadings = {}
  if (!measuring.value) return out
  for (const limit of props.item.limits) {
    if (limit.kind === 'go') {
      const gauge = gauges[limit.key]
      if (gauge) out[limit.key] = gauge
      continue
    }
    const values = (typed[limit.key] ?? [])
      .filter((t) => t.trim())
      .map((t) => read(t, limit.unit))
      .filter((v): v is number => v !== null)
    if (values.length > 0) out[limit.key] = values
  }
  return out
})
const tools = computed(() => (session.overview?.instruments ?? []).filter((i) => i.quantity === 'length'))
const tool = computed(() => tools.value.find((i) => i.id === instrument.value) ?? null)
const toolFits = computed(
  () => !tool.value || calibratedAt(instrumentFacts([tool.value])[tool.value.id]!, Date.now()),
)
const verdict = computed(() =>
  judgeItem(
    props.item.limits,
    readings.value,
    Object.fromEntries(props.item.limits.map((l) => [l.key, tool.value?.uncertainty ?? 0])),
  ),
)
const wall = computed(() =>
  typeof props.item.facts['pipe.wall'] === 'number' ? props.item.facts['pipe.wall'] : 0,
)
const depth = computed(() => read(damage.depth))
const placed = computed<Damage | null>(() => {
  const length = read(damage.length)
  return damaged.value && depth.value !== null && length !== null
    ? { clock: damage.clock, fromEnd: damage.fromEnd, length, depth: depth.value }
    : null
})
const damageVerdict = computed(() =>
  placed.value && wall.value > 0 ? judgeDamage(placed.value, wall.value) : null,
)

async function photo(file: File) {
  const kept = await attempt(async () =>
    api<{ id: string }>(`${session.base}/files`, { body: await smallPicture(file) }),
  )
  if (kept) photos.value = [...photos.value, kept.id]
}
async function done(outcome: string) {
  if (damaged.value && !placed.value)
    return want(`Give length and depth of the damage, in ${unitShown('mm')} or with a unit.`)
  if (outcome !== 'accepted' && !remark.value.trim() && !damaged.value && verdict.value.state !== 'rejected')
    return want('Say why.')
  await attempt(() =>
    props.send({
      outcome,
      remark: remark.value.trim() || null,
      damage: placed.value,
      readings: readings.value,
      instrument: measuring.value && instrument.value ? instrument.value : null,
      photos: photos.value,
    }),
  )
}
</script>

<template>
  <div class="inspection">
    <header class="row">
      <div class="grow">
        <h2>{{ item.serial }}</h2>
        <span class="muted"
          >{{ item.title }} · lot
          <NuxtLink :to="`/deliveries/trace?kind=lot&value=${encodeURIComponent(item.lot)}`">{{
            item.lot
          }}</NuxtLink></span
        >
      </div>
      <StateGlyph
        :state="
          item.state === 'accepted' || item.state === 'remark'
            ? 'accepted'
            : item.state === 'received'
              ? 'not-started'
              : 'rejected'
        "
        :size="32"
      /><strong>{{ itemStateWords[item.state] }}</strong>
    </header>
    <p v-if="!item.conforms" class="fault">Not as ordered: quarantine or return it.</p>
    <div v-if="item.limits.length" class="row wrap">
      <ElCheckbox v-model="measuring" size="large" :disabled="!may">Measured</ElCheckbox>
      <ElCheckbox v-if="item.kind === 'pipe'" v-model="damaged" size="large" :disabled="!may"
        >Damaged</ElCheckbox
      >
    </div>
    <ElCheckbox v-else-if="item.kind === 'pipe'" v-model="damaged" size="large" :disabled="!may"
      >Damaged</ElCheckbox
    >
    <template v-if="measuring">
      <div class="field">
        Measured with<ElSelect
          v-model="instrument"
          clearable
          placeholder="no instrument named"
          aria-label="Measured with"
          :disabled="!may"
          ><ElOption
            v-for="i in tools"
            :key="i.id"
            :value="i.id"
            :label="`${i.name}, ± ${showQuantity(i.uncertainty, 'length', 'mm', 2)}`"
        /></ElSelect>
      </div>
      <p v-if="!toolFits" class="fault">{{ tool!.name }} is out of calibration: its readings do not count.</p>
      <div v-for="limit in item.limits" :key="limit.key" class="limit">
        <span
          ><strong>{{ limit.title }}</strong> <span class="muted small">{{ limit.where }}</span></span
        >
        <div v-if="limit.kind === 'measure'" class="values">
          <ElInput
            v-for="(_v, i) in typed[limit.key] ?? []"
            :key="i"
            v-model="typed[limit.key]![i]"
            inputmode="decimal"
            :aria-label="`${limit.title} ${i + 1}, ${unitShown(limit.unit)}`"
            :disabled="!may"
          />
          <span class="muted unit">{{ unitShown(limit.unit) }}</span>
        </div>
        <ElRadioGroup v-else v-model="gauges[limit.key]" :aria-label="limit.title" :disabled="!may"
          ><ElRadioButton value="go">Goes on</ElRadioButton
          ><ElRadioButton value="no-go">Does not</ElRadioButton></ElRadioGroup
        >
      </div>
      <template v-for="f in verdict.findings" :key="f.title"><ToleranceBar v-bind="f" /></template>
      <p v-if="verdict.missing.length" class="muted small">
        Not measured yet: {{ verdict.missing.join(', ') }}.
      </p>
      <p v-if="verdict.state !== 'not-measured'" :class="verdict.state === 'accepted' ? 'fine' : 'fault'">
        {{
          verdict.state === 'accepted'
            ? 'All within its limits.'
            : verdict.state === 'too-close'
              ? 'Too close to call: measure again, or with a better tool.'
              : 'Outside its limits.'
        }}
      </p>
    </template>
    <template v-if="damaged">
      <DamagePipe
        :length="item.length ?? 12"
        :clock="damage.clock"
        :from-end="damage.fromEnd"
        :damage="read(damage.length) ?? 0"
        :depth="depth ?? 0"
        :wall="wall"
        :editable="may"
        @place="(p) => Object.assign(damage, p)"
      />
      <p class="muted small">Tap the pipe for the place, the ring for the clock position.</p>
      <div class="row">
        <label
          >Length, {{ unitShown('mm') }}<ElInput v-model="damage.length" inputmode="decimal" :disabled="!may"
        /></label>
        <label
          >Depth, {{ unitShown('mm') }}<ElInput v-model="damage.depth" inputmode="decimal" :disabled="!may"
        /></label>
      </div>
      <p v-if="damageVerdict" :class="damageVerdict.conforms ? 'fine' : 'fault'">
        {{ damageVerdict.sentence }}
      </p>
    </template>
    <div class="row wrap photos">
      <a v-for="p in photos" :key="p" :href="`/api/${session.base}/files/${p}`" target="_blank"
        ><img :src="`/api/${session.base}/files/${p}`" alt="Photo of this item"
      /></a>
      <FileButton
        v-if="may && photos.length < 6"
        label="Photo"
        name="Add a photo"
        accept="image/*"
        camera
        :disabled="busy"
        @chosen="photo"
      />
    </div>
    <label
      >Remark<ElInput v-model="remark" type="textarea" :rows="2" maxlength="400" :disabled="!may"
    /></label>
    <p v-if="words" class="fault" role="alert">{{ words }}</p>
    <div v-if="may" class="outcomes">
      <ElButton type="primary" size="large" :disabled="busy || !item.conforms" @click="done('accepted')"
        >Accept</ElButton
      >
      <ElButton size="large" :disabled="busy || !item.conforms" @click="done('remark')"
        >Accept with remark</ElButton
      >
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
label,
.field {
  display: block;
  flex: 1;
  font-size: var(--s14);
  color: var(--muted);
}
.wrap {
  flex-wrap: wrap;
}
.limit {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.values {
  display: flex;
  gap: 8px;
  align-items: center;
}
.unit {
  width: 32px;
  flex: none;
}
.photos img {
  display: block;
  height: 72px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
}
.outcomes {
  position: sticky;
  bottom: 0;
  margin: 0 -22px;
  padding: 12px 22px;
  background: var(--card);
  border-top: 1px solid var(--hair);
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
