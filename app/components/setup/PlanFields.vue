<script
  setup
  lang="ts"
  generic="Form extends Record<'system' | 'crew' | 'from' | 'to' | 'pattern' | 'start', string>"
>
import { useSession } from '~/stores/session'

/** What a plan along a line asks: by which procedure, by whom, from where to where, how it is numbered. */
const form = defineModel<Form>({ required: true })
defineProps<{
  procedure: string
  procedures: readonly { key: string; title: string }[]
  /** what its numbers or names are called */
  names: string
  at: (field: string) => string
}>()
const session = useSession()
</script>

<template>
  <FormField :label="procedure" group :fault="at('system')">
    <ElSelect v-model="form.system" size="large" filterable :aria-label="procedure"
      ><ElOption v-for="p in procedures" :key="p.key" :value="p.key" :label="p.title"
    /></ElSelect>
  </FormField>
  <FormField label="Crew" group :fault="at('crew')">
    <ElSelect v-model="form.crew" size="large" aria-label="Crew"
      ><ElOption v-for="c in session.overview?.crews" :key="c.id" :value="c.id" :label="c.name"
    /></ElSelect>
  </FormField>
  <StationField v-model="form.from" label="From station" :fault="at('from')" />
  <StationField v-model="form.to" label="To station" :fault="at('to')" />
  <slot />
  <div class="two">
    <FormField :label="names" :fault="at('pattern')"
      ><ElInput v-model="form.pattern" size="large" maxlength="40"
    /></FormField>
    <FormField label="From" :fault="at('start')"
      ><ElInput v-model="form.start" size="large" maxlength="6" inputmode="numeric"
    /></FormField>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: 12px;
}
</style>
