<script setup lang="ts">
import { useSession } from '~/stores/session'
import type { StripJoint } from '~/stores/strip'

/** A joint goes to another crew, with its reason. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ joint: StripJoint }>()
const emit = defineEmits<{ given: [] }>()
const session = useSession()
const form = reactive({ crew: '', reason: '' })
const others = computed(() => session.overview?.crews.filter((c) => c.id !== props.joint.crew) ?? [])
const { busy, at, besides, send } = useSending()
watch(open, () => Object.assign(form, { crew: '', reason: '' }))
async function give() {
  if (!(await send(() => api(`${session.base}/joints/${props.joint.id}/crew`, { body: { ...form } })))) return
  open.value = false
  emit('given')
}
</script>

<template>
  <DialogForm
    v-model="open"
    :title="`${joint.number}: to another crew`"
    action="Give it"
    :busy="busy"
    :fault="besides(['crew', 'reason'])"
    :ready="form.crew !== '' && form.reason.trim() !== ''"
    @send="give"
  >
    <p class="muted">
      It is {{ session.crewName(joint.crew) }}’s now. What was recorded there stays as it was written.
    </p>
    <FormField label="Crew" group :fault="at('crew')">
      <ElSelect v-model="form.crew" size="large" aria-label="Other crew"
        ><ElOption v-for="c in others" :key="c.id" :value="c.id" :label="c.name"
      /></ElSelect>
    </FormField>
    <FormField label="Why" :fault="at('reason')"
      ><ElInput v-model="form.reason" size="large" maxlength="400"
    /></FormField>
  </DialogForm>
</template>
