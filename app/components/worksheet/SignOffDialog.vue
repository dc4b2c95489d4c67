<script setup lang="ts">
import type { useSignOff } from '~/composables/useSignOff'

/** A release, refusal, waiver or decision, signed by whoever gives it. */
const props = defineProps<{
  signOff: ReturnType<typeof useSignOff>
  laterSteps: { key: string; title: string }[]
  titleOf: (key: string) => string
  dry: boolean
}>()
// What a person chooses in it is the sign-off's own.
const { signing, open, title, action, sign } = props.signOff
</script>

<template>
  <SecretDialog
    v-model="open"
    :title="title"
    :action="action"
    :danger="signing.kind === 'refusal'"
    :reason-label="signing.kind === 'release' ? 'Note (not needed)' : 'Why?'"
    :reason-required="signing.kind !== 'release'"
    :send="sign"
  >
    <ReleaseConditions
      v-if="signing.kind === 'release' && !dry"
      :model-value="signing.conditions ?? []"
      :steps="laterSteps"
      @update:model-value="(conditions) => (signing = { ...signing, conditions })"
    />
    <p v-if="signing.waives?.length" class="muted">
      It leaves open: {{ signing.waives.map(titleOf).join('; ') }}.
    </p>
  </SecretDialog>
</template>
