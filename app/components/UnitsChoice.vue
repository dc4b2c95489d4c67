<script setup lang="ts">
import { siteUnits, type SiteUnits } from '#core/quantity/site-units'
import { useSession } from '~/stores/session'
import { unitsWords } from '~/words'

/** What this person reads figures in, on this device. Records and documents stay as the project has them. */
const open = defineModel<boolean>({ required: true })
const session = useSession()
const project = computed(() => session.overview?.project.units ?? 'as-written')
const own = ref<SiteUnits | 'project'>(ownUnits() ?? 'project')
const chosen = computed(() => (own.value === 'project' ? null : own.value))
</script>

<template>
  <ElDialog v-model="open" title="Units on this device" width="480px" align-center>
    <ElRadioGroup v-model="own" class="ways" aria-label="Units on this device">
      <ElRadio value="project">As the project: {{ unitsWords[project].toLowerCase() }}</ElRadio>
      <ElRadio v-for="u in siteUnits" :key="u" :value="u">{{ unitsWords[u] }}</ElRadio>
    </ElRadioGroup>
    <p class="muted small">
      You may type in any unit: with it, or bare in the unit beside the field. Documents are printed in the
      project’s units.
    </p>
    <div class="actions">
      <ElButton size="large" @click="open = false">Back</ElButton>
      <ElButton size="large" type="primary" @click="chooseUnits(chosen)">Show it so</ElButton>
    </div>
  </ElDialog>
</template>

<style scoped>
.ways {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 4px;
}
.ways .el-radio {
  min-height: 44px;
}
</style>
