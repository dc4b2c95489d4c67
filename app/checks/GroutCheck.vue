<script setup lang="ts">
import { unitShown } from '#core/quantity/site-units'
import type { Made } from '#core/checks/define'
import { atInvert, groutFigures, type GroutCheck, type GroutRow } from '#core/checks/grout'
import { showQuantity } from '#core/quantity/show'
import type { CheckEmits, CheckForm, CheckProps } from './form'
import { typedQuantity } from './typed'

/** The grout as it is pumped: pressure against what the pipe bears; full when somebody says so. */
const props = defineProps<CheckProps>()
const emit = defineEmits<CheckEmits>()
const figures = computed(() => groutFigures(props.step as unknown as Made<GroutCheck>, props.slots))
const typed = reactive({ pressure: '', volume: '' })
const pressure = computed(() => typedQuantity(typed.pressure, 'pressure', 'kPa'))
const volume = computed(() => typedQuantity(typed.volume, 'volume', 'L'))
const there = computed(() => (pressure.value === null ? null : atInvert(pressure.value, figures.value)))
const kPa = (v: number) => showQuantity(v, 'pressure', 'kPa')
/** seconds since the first reading of the log */
const begun = computed(() => props.entries.find((e) => e.kind === 'grout')?.recordedAt ?? props.now)
watch([pressure, volume], () => {
  if (pressure.value === null || volume.value === null) return emit('ready', null)
  const row: GroutRow = {
    t: Math.max(0, Math.round((props.now - begun.value) / 1000)),
    pressure: pressure.value,
    volume: volume.value,
  }
  emit('ready', { kind: 'grout', payload: { rows: [row] } })
})
const say = (answer: 'yes' | 'no') => emit('answer', [{ kind: 'confirmation', payload: { answer } }])
defineExpose<CheckForm>({ clear: () => void Object.assign(typed, { pressure: '', volume: '' }) })
</script>

<template>
  <form class="part" @submit.prevent="$emit('submit')">
    <p>The pipe bears {{ kPa(figures.limit) }} from outside, at its invert.</p>
    <div class="two">
      <label
        >Gauge, {{ unitShown('kPa')
        }}<ElInput v-model="typed.pressure" size="large" inputmode="decimal" autocomplete="off"
      /></label>
      <label
        >Pumped so far, {{ unitShown('L')
        }}<ElInput v-model="typed.volume" size="large" inputmode="decimal" autocomplete="off"
      /></label>
    </div>
    <p v-if="there !== null" :class="{ near: there >= figures.warn * figures.limit }" aria-live="polite">
      <strong>{{ kPa(there) }}</strong> at the invert<template v-if="there > figures.limit"
        >: stop, it is more than the pipe bears</template
      ><template v-else-if="there >= figures.warn * figures.limit">: close to the limit, slow down</template>
    </p>
    <ElButton size="large" :disabled="busy" @click="say('yes')">The annulus is full</ElButton>
  </form>
</template>

<style scoped>
.near {
  border-left: 4px solid var(--held);
  padding-left: 12px;
}
</style>
