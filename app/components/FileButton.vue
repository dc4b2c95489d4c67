<script setup lang="ts">
/** A button that takes a file or a photo; the same one may be taken again after it was put right. */
defineProps<{
  /** what stands on it */
  label: string
  /** what it is called by whoever does not see where it stands */
  name?: string
  accept: string
  /** asks a phone for its camera */
  camera?: boolean
  disabled?: boolean
}>()
const emit = defineEmits<{ chosen: [File] }>()
function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) emit('chosen', file)
}
</script>

<template>
  <label class="file-button" :class="{ disabled }"
    ><input
      type="file"
      :accept="accept"
      :capture="camera ? 'environment' : undefined"
      :aria-label="name ?? label"
      :disabled="disabled"
      @change="choose"
    /><span>{{ label }}</span></label
  >
</template>

<style scoped>
.file-button {
  position: relative;
  display: inline-flex;
  flex: none;
  align-items: center;
  min-height: 48px;
  padding: 0 20px;
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  color: var(--ink);
  font-size: var(--s16);
  font-weight: 600;
}
.file-button.disabled {
  color: var(--muted);
}
input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.file-button:focus-within {
  outline: 3px solid var(--line);
}
</style>
