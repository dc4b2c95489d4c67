<script setup lang="ts">
import type { SiteUnits } from '#core/quantity/site-units'
import { useSession } from '~/stores/session'

/** What the project is called, where its days begin, and what its figures are shown in. */
export interface ProjectNamed {
  name: string
  zone: string
  units: SiteUnits
  codes: string
  title: string
}
const props = defineProps<{ project: ProjectNamed }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const form = reactive({ ...props.project, reason: '' })
const { busy, at, besides, send } = useSending()
const done = ref(false)
async function save() {
  done.value = false
  if (!(await send(() => api(`${session.base}/settings/project`, { body: { ...form } })))) return
  form.reason = ''
  done.value = true
  await session.loadProject()
  emit('changed')
}
</script>

<template>
  <PlanForm @submit="save">
    <FormField label="Name of the project" :fault="at('name')"
      ><ElInput v-model="form.name" size="large" maxlength="160"
    /></FormField>
    <ZoneAndUnits v-model:zone="form.zone" v-model:units="form.units" :fault="at('zone')" />
    <FormField label="Documents are headed with (may stay empty)" :fault="at('title')"
      ><ElInput v-model="form.title" size="large" maxlength="160"
    /></FormField>
    <FormField label="Why it is changed" :fault="at('reason')"
      ><ElInput v-model="form.reason" size="large" maxlength="2000"
    /></FormField>
    <FormField label="Local codes that apply (may stay empty)" class="wide" :fault="at('codes')"
      ><ElInput v-model="form.codes" type="textarea" :rows="2" maxlength="2000"
    /></FormField>
    <template #acts>
      <p v-if="besides(['name', 'zone', 'title', 'codes', 'reason'])" class="fault grow" role="alert">
        {{ besides(['name', 'zone', 'title', 'codes', 'reason']) }}
      </p>
      <p v-else-if="done" class="fine grow" role="status">The project is changed.</p>
      <ElButton
        type="primary"
        size="large"
        native-type="submit"
        :loading="busy"
        :disabled="!form.name.trim() || !form.reason.trim()"
        >Change the project</ElButton
      >
    </template>
  </PlanForm>
</template>
