<script setup lang="ts">
import { showMetres } from '#core/quantity/show'
import type { JointReply } from '~/composables/useWorksheet'
import { signal } from '~/device/signal'
import { placeWords } from '~/words'

/**
 * Opening a joint: accepted, unused items where the catalogue knows them, and the facts that nothing else
 * gives.
 */
const props = defineProps<{ sheet: JointReply }>()
const emit = defineEmits<{ opened: [] }>()
const joint = computed(() => props.sheet.joint)
const opening = computed(() => props.sheet.opening!)
const { places, offered, chosen, typed, fault, shownAt, busy, complete, like, takeOver, search, open } =
  useOpening(props.sheet, () => emit('opened'))
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
    <p v-if="!signal" class="muted">
      No signal: the pieces offered are those that were free when this device last heard. The joint is opened
      here, and the server says on arrival if one of them was used meanwhile.
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
            <ElOption
              v-for="i in offered[p]"
              :key="i.id"
              :value="i.id"
              :label="`${i.serial} · ${i.item} · lot ${i.lot}`"
            />
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
