<script setup lang="ts">
import { showMetres, showStretch } from '#core/quantity/show'
import type { AtWork } from '~/composables/useWorksheet'
import { useSession } from '~/stores/session'

/** What is worked at, how it stands, and where it lies on its line. */
const props = defineProps<{ work: AtWork; withdrawn: boolean }>()
const session = useSession()
const { sheet, compiled, judgement } = props.work
const mayTrace = computed(() => !props.work.dry && session.can('see-office'))
const where = computed(() => {
  const s = sheet.value?.subject
  if (s && 'station' in s) return `station ${showMetres(s.station, 1)}`
  return s && 'from' in s ? showStretch(s.from, s.to) : ''
})
</script>

<template>
  <header v-if="sheet && compiled && judgement">
    <h2>{{ sheet.subject.title }}</h2>
    <StateGlyph :state="judgement.state" :size="28" word />
    <span class="muted grow"
      ><template v-if="!work.dry">{{ where }} · {{ session.crewName(sheet.subject.crew) }} · </template
      >{{ compiled.procedure.title }}, revision {{ compiled.procedure.revision }}</span
    >
    <NuxtLink
      v-if="mayTrace"
      :to="`/deliveries/trace?kind=${sheet.subject.type}&value=${sheet.subject.id}`"
      class="quiet"
      >Made with</NuxtLink
    >
    <WithdrawAct
      v-if="!work.dry && !withdrawn && session.can('withdraw')"
      :address="work.address"
      :what="sheet.subject.title"
      @withdrawn="work.load"
    />
    <span class="muted count">{{ judgement.done }} of {{ judgement.applicable }}</span>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 20px;
  border-bottom: 1px solid var(--hair);
  white-space: nowrap;
}
.grow {
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 720px) {
  header {
    gap: 10px;
    padding: 0 14px;
  }
  .grow,
  .count {
    display: none;
  }
}
</style>
