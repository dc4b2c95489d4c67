<script setup lang="ts">
/** A file chosen or dropped, read as it is; what it holds is the server's to say. */
export interface ChosenFile {
  name: string
  data: string
}
defineProps<{ label: string; accept: string }>()
const file = defineModel<ChosenFile | null>({ required: true })

async function choose(event: Event) {
  const picked = (event.target as HTMLInputElement).files?.[0]
  if (!picked) return
  const bytes = new Uint8Array(await picked.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  file.value = { name: picked.name, data: btoa(text) }
}
</script>

<template>
  <label class="file"
    >{{ label
    }}<span class="drop"
      ><input type="file" :accept="accept" :aria-label="label" @change="choose" /><span>{{
        file?.name ?? 'Choose the file, or drop it here'
      }}</span></span
    ></label
  >
</template>

<style scoped>
.file {
  font-size: var(--s14);
  color: var(--muted);
}
.drop {
  position: relative;
  display: flex;
  align-items: center;
  min-height: 88px;
  padding: 16px;
  border: 2px dashed var(--muted);
  border-radius: var(--corner);
  font-size: var(--s18);
  color: var(--ink);
  background: var(--card);
  overflow-wrap: anywhere;
}
.drop input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.drop:focus-within {
  outline: 3px solid var(--line);
}
</style>
