<script setup lang="ts">
/** A pad for gloves: each key writes into whichever reading is being typed. */
defineEmits<{ key: [string] }>()
const keys = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '−', '0', '.']
</script>

<template>
  <div class="pad" role="group" aria-label="Number pad">
    <button v-for="k in keys" :key="k" type="button" @click="$emit('key', k)">{{ k }}</button>
    <button type="button" class="wide" aria-label="Delete the last digit" @click="$emit('key', 'back')">
      Delete
    </button>
    <button type="button" aria-label="Next reading" @click="$emit('key', 'next')">↵</button>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
  width: 204px;
  flex: none;
}
button {
  min-height: 50px;
  font-size: var(--s22);
  border: 1px solid var(--hair);
  border-radius: var(--corner);
  background: var(--card);
  color: var(--ink);
  cursor: pointer;
  touch-action: manipulation;
}
button:active {
  background: var(--wash);
}
.wide {
  grid-column: span 2;
  font-size: var(--s16);
}
</style>
